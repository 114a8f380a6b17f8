import { ROUTES, type Route } from './routes';

/** The table of all addresses, as docs/formats.md shows it (Markdown). */
export function routesTable(): string {
  const rows = Object.values<Route>(ROUTES).map(
    (route) =>
      `| \`${route.method} /api${shown(route)}\` | ${route.needs} | ${route.says}${answers(route)} |`,
  );
  return ['| | who | |', '|---|---|---|', ...rows].join('\n');
}

/** The path, with what its parts name in capitals. */
const shown = ({ path, of }: Route): string =>
  path.replace(/:([a-z]+)/gi, (_, part: string) => {
    const what = (of as Record<string, string | readonly string[]>)[part];
    return typeof what === 'string' ? what.replaceAll(' ', '-').toUpperCase() : part.toUpperCase();
  });

const answers = ({ status, raw }: Route): string =>
  raw === undefined ? (status === undefined ? '' : ` (${status})`) : ` (${raw})`;
