/**
 * Chance that a random sample without putting back holds at least one of the bad files
 * (hypergeometric: 1 − C(files − bad, sample) ÷ C(files, sample)).
 * @example chanceOfFinding(1000, 10, 258) // 0.95
 */
export function chanceOfFinding(fileCount: number, badCount: number, sampleSize: number): number {
  if (badCount <= 0 || sampleSize <= 0) return 0;
  if (sampleSize + badCount > fileCount) return 1;
  // The product over the smaller of the two, which are interchangeable in it.
  const [draws, marked] = sampleSize < badCount ? [sampleSize, badCount] : [badCount, sampleSize];
  let logMiss = 0;
  for (let draw = 0; draw < draws; draw += 1) logMiss += Math.log1p(-marked / (fileCount - draw));
  return -Math.expm1(logMiss);
}

/**
 * The smallest sample that finds at least one of `badCount` bad files with the confidence asked for.
 * @param confidence above 0 and below 1
 */
export function sampleSizeFor(fileCount: number, badCount: number, confidence: number): number {
  let low = 0;
  let high = fileCount;
  while (low < high) {
    const middle = Math.floor((low + high) / 2);
    // What is exactly the confidence comes out a hair below it in floating point.
    if (chanceOfFinding(fileCount, badCount, middle) >= confidence - 1e-12) high = middle;
    else low = middle + 1;
  }
  return low;
}

type SampleStatement = {
  readonly sampleSize: number;
  readonly fileCount: number;
  /** Reading form: what the sample would find, and what it would not. */
  readonly sentence: string;
};

function percent(chance: number): string {
  const value = chance * 100;
  if (value >= 99.95) return value >= 100 ? '100 %' : 'more than 99.9 %';
  return `${value < 10 ? value.toFixed(1) : Math.floor(value)} %`;
}

/** What a sample tells, in plain words: with one file in a hundred bad, and with only one bad at all. */
export function describeSample(fileCount: number, sampleSize: number): SampleStatement {
  if (sampleSize >= fileCount)
    return {
      sampleSize: fileCount,
      fileCount,
      sentence: `Every one of ${fileCount.toLocaleString('en')} files is read: one bad file is found.`,
    };
  const drawn = `${sampleSize.toLocaleString('en')} of ${fileCount.toLocaleString('en')} files, drawn at random:`;
  const single = percent(chanceOfFinding(fileCount, 1, sampleSize));
  // One in a hundred of fewer than a hundred files is no file.
  if (fileCount < 100)
    return {
      sampleSize,
      fileCount,
      sentence: `${drawn} if a single one were bad, this finds it with ${single}.`,
    };
  const onePercent = Math.round(fileCount / 100);
  return {
    sampleSize,
    fileCount,
    sentence: `${drawn} if ${onePercent.toLocaleString('en')} of them (1 in 100) were bad, this finds at least one with ${percent(chanceOfFinding(fileCount, onePercent, sampleSize))}; if a single one were bad, with ${single}.`,
  };
}

/**
 * Rows of a random sample, in rising order (Floyd's algorithm).
 * @param random numbers from 0 up to 1, one a row
 */
export function drawSample(fileCount: number, sampleSize: number, random: () => number): readonly number[] {
  const drawn = new Set<number>();
  for (let last = fileCount - Math.min(sampleSize, fileCount); last < fileCount; last += 1) {
    const row = Math.min(last, Math.floor(random() * (last + 1)));
    drawn.add(drawn.has(row) ? last : row);
  }
  return [...drawn].sort((a, b) => a - b);
}
