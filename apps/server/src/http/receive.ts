import { createWriteStream } from 'node:fs';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Request } from 'express';
import { busy, refuse } from './problem';

/** An upload of which nothing has arrived for so long is given up. */
const silenceMs = 30_000;
/** So many uploads are received at once; more are asked to come again. */
const maxAtOnce = 200;
let atOnce = 0;

/**
 * Receives a body into a file, up to a limit. However slow, it is not cut while bytes arrive, and it
 * holds nothing but the file meanwhile.
 * @throws ProblemError 413 too large, 408 silent too long, 415 compressed, 503 too many at once
 */
export async function receive(request: Request, path: string, limitBytes: number): Promise<void> {
  const encoding = request.headers['content-encoding'];
  if (encoding !== undefined && encoding !== 'identity')
    throw refuse('encoding', 'Lists are sent as they are, without a content encoding.');
  if (Number(request.headers['content-length'] ?? 0) > limitBytes) throw tooLarge(limitBytes);
  if (atOnce >= maxAtOnce) throw busy();
  atOnce += 1;
  let bytes = 0;
  const silent = refuse(
    'upload-silent',
    `Nothing arrived for ${silenceMs / 1000} seconds: the upload was given up, and nothing was recorded. Send it again.`,
  );
  let timer = setTimeout(() => counter.destroy(silent), silenceMs);
  const counter = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      clearTimeout(timer);
      timer = setTimeout(() => counter.destroy(silent), silenceMs);
      bytes += chunk.length;
      if (bytes > limitBytes) done(tooLarge(limitBytes));
      else done(null, chunk);
    },
  });
  try {
    await pipeline(request, counter, createWriteStream(path, { mode: 0o600 }));
  } catch (error) {
    if (request.destroyed && !request.complete && error !== silent)
      throw refuse('upload-broken-off', 'The upload broke off: nothing was recorded. Send it again.');
    throw error;
  } finally {
    clearTimeout(timer);
    atOnce -= 1;
  }
}

function tooLarge(limitBytes: number) {
  return refuse(
    'too-large',
    `The list is larger than ${limitBytes / 1024 / 1024} MiB: split it by folder. Nothing was recorded.`,
  );
}
