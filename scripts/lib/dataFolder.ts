import { accessSync, constants, mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { Failure } from './fail';

/** The folder that Ulvane keeps everything in, made when it is missing; one that cannot be written is one sentence. */
export function dataFolderOf(environment: NodeJS.ProcessEnv, otherwise = '.ulvane'): string {
  const folder = resolve(environment.ULVANE_DATA ?? otherwise);
  try {
    mkdirSync(folder, { recursive: true });
    accessSync(folder, constants.W_OK);
    const probe = join(folder, `.probe-${process.pid}`);
    writeFileSync(probe, '');
    rmSync(probe);
  } catch (error) {
    const why = error instanceof Error && 'code' in error ? String(error.code) : String(error);
    throw new Failure(
      `The folder ${folder} cannot be written (${why}): make it writable for this account, or set ULVANE_DATA to another.`,
    );
  }
  return folder;
}
