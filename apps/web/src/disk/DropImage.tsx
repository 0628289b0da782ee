import { useDropzone } from 'react-dropzone';
import Button from 'react-bootstrap/Button';

type DropImageProps = {
  /** With a known disk its first and last sectors are enough. */
  readonly partsAllowed: boolean;
  readonly onFiles: (files: readonly File[]) => void;
};

/** Where an image of a disk, or its head and tail, is dropped. */
export function DropImage({ partsAllowed, onFiles }: DropImageProps) {
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: (files) => {
      if (files.length > 0) onFiles(files.slice(0, 2));
    },
    maxFiles: 2,
    noClick: true,
    noKeyboard: true,
  });
  return (
    <div {...getRootProps({ className: `drop${isDragActive ? ' over' : ''}` })}>
      <input {...getInputProps({ 'aria-label': 'Image of a disk' })} />
      <strong>Drop an image of the disk here</strong>{' '}
      <Button size="sm" onClick={open}>
        Pick the image
      </Button>
      <p className="small-print mb-0 mt-1">
        {partsAllowed
          ? 'The whole image, or two files: the disk’s first MiB, then its last. '
          : 'It is read by slices: an image of a terabyte is no slower than a small one. '}
        Nothing of it leaves this browser, and Ulvane writes to no disk.
      </p>
    </div>
  );
}
