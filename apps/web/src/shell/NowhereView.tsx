import { Link } from 'react-router';

export function NowhereView() {
  return (
    <div className="empty">
      <h1>Nothing is here</h1>
      <p>
        The address leads nowhere. <Link to="/">Today</Link> shows what needs a hand.
      </p>
    </div>
  );
}
