import type { DataSource, QueryRunner } from 'typeorm';

/** Work with a connection of its own, all of it in one transaction: `COPY` needs the connection itself. */
export async function inOneTransaction<T>(
  dataSource: DataSource,
  work: (runner: QueryRunner) => Promise<T>,
): Promise<T> {
  const runner = dataSource.createQueryRunner();
  await runner.connect();
  await runner.startTransaction();
  try {
    const value = await work(runner);
    await runner.commitTransaction();
    return value;
  } catch (error) {
    await runner.rollbackTransaction();
    throw error;
  } finally {
    await runner.release();
  }
}
