/**
 * What may stand in a log. Statements and messages of the database carry the values that were sent, password hashes
 * among them: of a failure of the database only its code and the names it concerns are told. Secrets that come by any
 * other way are taken out by their form.
 */

const SECRETS: readonly [RegExp, string][] = [
  [/\$argon2[a-z]*\$[^\s'"]+/g, '[hash]'],
  [/\b(insel_session=)[^\s;,'"]+/g, '$1[session]'],
  [/\b(Bearer )\S+/gi, '$1[token]'],
  [/(:\/\/[^\s:/@]+:)[^\s@]+@/g, '$1[password]@'],
  [/("(?:password|passwordHash|token)"\s*:\s*)"(?:[^"\\]|\\.)*"/g, '$1"[secret]"'],
];

/** A text without secrets. */
export const redacted = (text: string): string =>
  SECRETS.reduce((left, [form, instead]) => left.replace(form, instead), text);

/** SQLSTATE (ISO/IEC 9075; PostgreSQL documentation, appendix A): five digits and capitals. */
const SQLSTATE = /^[0-9A-Z]{5}$/;

/** An error in words for the log, without anything that was sent to the database. */
export function safeText(error: unknown): string {
  if (!(error instanceof Error)) return redacted(String(error));
  const { code, table, column, constraint, schema, routine } = error as unknown as Record<
    string,
    unknown
  >;
  const trace = (error.stack ?? '').split('\n').filter((line) => /^\s+at /.test(line));
  const database = typeof code === 'string' && SQLSTATE.test(code);
  const names = { schema, table, column, constraint, routine };
  const about = Object.entries(names).flatMap(([name, value]) =>
    typeof value === 'string' ? [`${name} ${value}`] : [],
  );
  const what = database
    ? [`the database refused with ${String(code)}`, ...about].join(', ')
    : `${error.name}: ${redacted(error.message)}`;
  const { cause } = error;
  const below = cause instanceof Error ? [`because: ${safeText(cause)}`] : [];
  return [what, ...trace, ...below].join('\n');
}
