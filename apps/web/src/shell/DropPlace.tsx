import type { ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import { useDropzone } from 'react-dropzone';

type DropPlaceProps = {
  /** What a screen reader calls the input. */
  readonly label: string;
  readonly title: string;
  readonly pick: string;
  readonly multiple?: boolean;
  /** Other ways beside the button. */
  readonly beside?: ReactNode;
  readonly onFiles: (files: readonly File[]) => void;
  readonly children: ReactNode;
};

/** Where files are dropped or picked: one file, unless several are asked for. */
export function DropPlace({
  label,
  title,
  pick,
  multiple = false,
  beside,
  onFiles,
  children,
}: DropPlaceProps) {
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    multiple,
    noClick: true,
    noKeyboard: true,
    onDrop: (files) => {
      if (files.length > 0) onFiles(files);
    },
  });
  return (
    <div {...getRootProps({ className: `drop${isDragActive ? ' over' : ''}` })}>
      <input {...getInputProps({ 'aria-label': label })} />
      <div className="d-flex flex-wrap gap-2 align-items-center">
        <strong>{title}</strong>
        <Button size="sm" onClick={open}>
          {pick}
        </Button>
        {beside}
      </div>
      {children}
    </div>
  );
}
