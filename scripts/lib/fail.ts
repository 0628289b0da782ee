/** A failure with its one sentence and its cure; commands print it and exit with 1. */
export class Failure extends Error {}

/** Runs a command's main function and prints a failure as one sentence. */
export async function runCommand(main: () => Promise<number>): Promise<void> {
  try {
    process.exitCode = await main();
  } catch (error) {
    console.error(error instanceof Failure ? `\n${error.message}` : error);
    process.exitCode = 1;
  }
}
