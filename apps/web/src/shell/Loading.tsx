/** Says what is being fetched. */
export function Loading({ what }: { readonly what: string }) {
  return (
    <p className="empty" role="status">
      Fetching {what} …
    </p>
  );
}
