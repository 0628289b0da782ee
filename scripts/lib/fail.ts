/** A failure with its one sentence and its cure; commands print it and exit with 1. */
export class Failure extends Error {}

/** Runs a command's main function and prints a failure as one sentence. */
export async function runCommand(main: () => Promise<number>): Promise<void> {
  let code = 1;
  try {
    code = await main();
  } catch (error) {
    console.error(error instanceof Failure ? `\n${error.message}` : error);
  }
  // The pipe to the bootstrap would keep this process waiting for words that never come.
  process.exit(code);
}
