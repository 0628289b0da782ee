/** Waiting, hatched: to be filled with by its id. */
export function WaitPattern({ id }: { readonly id: string }) {
  return (
    <defs>
      <pattern id={id} width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="5" height="5" fill="#fffdf8" />
        <path d="M0 0V5" stroke="var(--wait)" strokeWidth="2.4" />
      </pattern>
    </defs>
  );
}
