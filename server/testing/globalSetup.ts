/** Server tests run against a real database, whose address the test command gives. */
export default function globalSetup(): void {
  if (!process.env['PACE_TEST_DATABASE'])
    throw new Error(
      'The server tests need a database: run `npm test`, or set PACE_TEST_DATABASE to the URL of a server on which databases may be made.',
    );
}
