/** Shown while the first view's script is fetched. */
export function Opening() {
  return (
    <p className="empty" role="status">
      Opening Ulvane …
    </p>
  );
}
