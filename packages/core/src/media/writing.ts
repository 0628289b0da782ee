import { copyTime } from '../backup/copies/copyTime';
import type { ThreePoint } from '../quantity/duration';

/** Minutes to write bytes to a stick, and to read them back; over the slower port where nobody knows which. */
export function writingMinutes(bytes: number): ThreePoint {
  const { minutes } = copyTime({ sizeBytes: bytes, fileCount: 0 }, 'solid-state', {
    link: 'usb3',
    medium: 'stick',
  });
  return minutes;
}
