import { DropPlace } from '../shell/DropPlace';

type DropImageProps = {
  /** With a known disk its first and last sectors are enough. */
  readonly partsAllowed: boolean;
  readonly onFiles: (files: readonly File[]) => void;
};

/** Where an image of a disk, or its head and tail, is dropped. */
export function DropImage({ partsAllowed, onFiles }: DropImageProps) {
  return (
    <DropPlace
      label="Image of a disk"
      title="Drop an image of the disk here"
      pick="Pick the image"
      multiple
      onFiles={(files) => onFiles(files.slice(0, 2))}
    >
      <p className="small-print mb-0 mt-1">
        {partsAllowed
          ? 'The whole image, or two files: the disk’s first MiB, then its last. '
          : 'It is read by slices: an image of a terabyte is no slower than a small one. '}
        Nothing of it leaves this browser, and Ulvane writes to no disk.
      </p>
    </DropPlace>
  );
}
