import { useState, type ReactNode } from 'react';

type FoldProps = {
  readonly title: ReactNode;
  readonly className?: string;
  readonly startsOpen?: boolean;
  /** Asked for only once it is open. */
  readonly children: () => ReactNode;
};

/** A part of the page that opens on its title, and is not there before. */
export function Fold({ title, className = '', startsOpen = false, children }: FoldProps) {
  const [open, setOpen] = useState(startsOpen);
  return (
    <details
      className={`fold ${className}`}
      open={open}
      onToggle={({ currentTarget }) => setOpen(currentTarget.open)}
    >
      <summary>{title}</summary>
      {open && children()}
    </details>
  );
}
