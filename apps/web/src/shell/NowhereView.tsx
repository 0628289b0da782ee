import { Link } from 'react-router';

export function NowhereView() {
  return (
    <div className="empty">
      <h1>Nothing is here</h1>
      <p>
        There is no page at this address. <Link to="/">Today</Link> shows what is next up.
      </p>
    </div>
  );
}
