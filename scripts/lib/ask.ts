import { createInterface } from 'node:readline/promises';

/** Asks on the terminal; null when nobody is there. */
export async function ask(question: string): Promise<string | null> {
  if (!process.stdin.isTTY) return null;
  const lines = createInterface({ input: process.stdin, output: process.stdout });
  const answer = await lines.question(question);
  lines.close();
  return answer.trim();
}
