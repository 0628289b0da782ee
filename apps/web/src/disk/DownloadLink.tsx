import { useEffect, useMemo, type ReactNode } from 'react';

type DownloadLinkProps = {
  readonly content: Blob | object;
  readonly name: string;
  readonly onSave?: () => void;
  readonly children: ReactNode;
};

/** A link that saves a file or a JSON document; its address lives as long as the link. */
export function DownloadLink({ content, name, onSave, children }: DownloadLinkProps) {
  const address = useMemo(
    () =>
      URL.createObjectURL(
        content instanceof Blob
          ? content
          : new Blob([`${JSON.stringify(content, null, 2)}\n`], { type: 'application/json' }),
      ),
    [content],
  );
  useEffect(() => () => URL.revokeObjectURL(address), [address]);
  return (
    <a className="btn btn-quiet btn-sm" href={address} download={name} onClick={onSave}>
      {children}
    </a>
  );
}
