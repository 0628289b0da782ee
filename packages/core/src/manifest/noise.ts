import picomatch from 'picomatch';

type NoiseRule = { readonly pattern: string; readonly sentence: string };

/**
 * What a system makes by itself and is nobody's file: excused where it was added, never where it was there before and
 * is missing or changed. Families of the catalogue add their own.
 */
export const noiseRules: readonly NoiseRule[] = [
  { pattern: '**/{cache,caches,.cache}/**', sentence: 'A cache: programs fill it again by themselves.' },
  {
    pattern: '**/{thumbnails,.thumbnails}/**',
    sentence: 'Small pictures of pictures, made again when looked at.',
  },
  { pattern: '**/{temp,tmp}/**', sentence: 'A folder for the moment.' },
  { pattern: '**/*.{tmp,temp,part,crdownload}', sentence: 'A file that was being written.' },
  { pattern: '**/{~$*,.~lock.*#}', sentence: 'A mark that a document is open.' },
  { pattern: '**/lost+found/**', sentence: 'What the file system’s check puts aside.' },
];

const options = { dot: true, nocase: true };

/**
 * Says which noise pattern, if any, explains a path. Patterns are globs over the path below the data
 * set's folder, without regard to case.
 * @example noiseOf([])('Ada/notes.txt') // null
 */
export function noiseOf(patterns: readonly string[]): (path: string) => string | null {
  const rules = [...noiseRules.map(({ pattern }) => pattern), ...patterns].map(
    (pattern) => [pattern, picomatch(pattern, options)] as const,
  );
  return (path) => rules.find(([, matches]) => matches(path))?.[0] ?? null;
}
