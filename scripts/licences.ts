import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import { runCommand } from './lib/fail';

const PackageSchema = z.looseObject({
  version: z.string().optional(),
  license: z.string().optional(),
  dev: z.boolean().optional(),
  devOptional: z.boolean().optional(),
  link: z.boolean().optional(),
});
const LockSchema = z.looseObject({ packages: z.record(z.string(), PackageSchema) });

/** Licences that ask for nothing but to be named, and weak copyleft that stays with its own files. */
const suited =
  /^(MIT|MIT-0|ISC|0BSD|BSD|BSD-[23]-Clause|Apache-2\.0|BlueOak-1\.0\.0|CC0-1\.0|CC-BY-[34]\.0|Unlicense|Python-2\.0|Zlib|OFL-1\.1|MPL-2\.0|Bitstream-Vera|WTFPL)$/;

/** Packages that name their licence in a file of it only, as read there. */
const inTheirFile: Readonly<Record<string, string>> = {
  'node_modules/png-js': 'MIT',
  // The fonts' own: free to use, embed and pass on; only a changed font needs another name.
  'node_modules/dejavu-fonts-ttf': 'Bitstream-Vera',
};

/** Of several licences joined by OR one may be chosen; of those joined by AND each has to be suited. */
function isSuited(expression: string): boolean {
  const bare = expression.replace(/[()]/g, '');
  return bare
    .split(/ OR /)
    .some((part) => part.split(/ AND /).every((licence) => suited.test(licence.trim())));
}

/** Older packages say it in their own file only. */
function licenceOf(path: string, { license }: z.infer<typeof PackageSchema>): string {
  if (license !== undefined && !/^SEE LICENSE/i.test(license)) return license;
  const asRead = inTheirFile[path];
  if (asRead !== undefined) return asRead;
  const own = join(path, 'package.json');
  if (!existsSync(own)) return 'unknown';
  const read = z
    .looseObject({
      license: z.union([z.string(), z.object({ type: z.string() })]).optional(),
      licenses: z.array(z.object({ type: z.string() })).optional(),
    })
    .safeParse(JSON.parse(readFileSync(own, 'utf8')));
  if (read.success && read.data.licenses) return read.data.licenses.map(({ type }) => type).join(' OR ');
  const said = read.success ? read.data.license : undefined;
  return typeof said === 'string' ? said : (said?.type ?? 'unknown');
}

/** Lists the licence of every package that the product ships with; fails on one that does not suit it. */
await runCommand(async () => {
  const { packages } = LockSchema.parse(JSON.parse(readFileSync('package-lock.json', 'utf8')));
  const shipped = Object.entries(packages).filter(
    ([path, { dev, devOptional, link }]) => path.includes('node_modules/') && !dev && !devOptional && !link,
  );
  const byLicence = new Map<string, string[]>();
  for (const [path, entry] of shipped) {
    const licence = licenceOf(path, entry);
    const name = `${path.replace(/^.*node_modules\//, '')}@${entry.version ?? ''}`;
    byLicence.set(licence, [...(byLicence.get(licence) ?? []), name]);
  }
  let unsuited = 0;
  for (const [licence, names] of [...byLicence].sort(([, a], [, b]) => b.length - a.length)) {
    const ok = isSuited(licence);
    unsuited += ok ? 0 : names.length;
    console.log(`${ok ? '  ' : '! '}${licence}: ${names.length}${ok ? '' : `: ${names.join(', ')}`}`);
  }
  console.log(`${shipped.length} packages that ship, ${unsuited} of an unsuited licence`);
  return unsuited === 0 ? 0 : 1;
});
