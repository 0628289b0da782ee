import { UnfitFile } from '../api/call';

/** The text of a file that was picked or dropped; one that cannot be read any more is said in a sentence. */
export async function textOfFile(file: File): Promise<string> {
  try {
    return await file.text();
  } catch {
    throw new UnfitFile(
      `${file.name} cannot be read: it was changed or removed, or its drive was unplugged. Choose it again.`,
    );
  }
}
