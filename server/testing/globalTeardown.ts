import { onServer } from './onServer';

/** Drops what globalSetup has made. */
export default async function globalTeardown(): Promise<void> {
  const name = process.env['PACE_TEST_TEMPLATE'];
  if (name) await onServer(`drop database ${name}`);
}
