import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { z } from 'zod';

/** First load: the entry script and everything that it imports at once, compressed. */
const limitBytes = 250_000;
const dist = join('apps', 'web', 'dist');
const ManifestSchema = z.record(
  z.string(),
  z.object({ file: z.string(), isEntry: z.boolean().optional(), imports: z.array(z.string()).optional() }),
);
const manifest = ManifestSchema.parse(JSON.parse(readFileSync(join(dist, '.vite', 'manifest.json'), 'utf8')));

const files = new Set<string>();
function visit(key: string): void {
  const chunk = manifest[key];
  if (!chunk || files.has(chunk.file)) return;
  files.add(chunk.file);
  chunk.imports?.forEach(visit);
}
Object.entries(manifest).forEach(([key, { isEntry }]) => isEntry && visit(key));

const bytes = [...files].reduce((sum, file) => sum + gzipSync(readFileSync(join(dist, file))).length, 0);
console.log(
  `First load: ${(bytes / 1000).toFixed(1)} kB of compressed script in ${files.size} files (limit ${limitBytes / 1000} kB).`,
);
if (bytes > limitBytes) {
  console.error('The first load is too large: split a view off, or drop a dependency.');
  process.exit(1);
}
