/**
 * How the numbers of a column are written: 1,234.5 or 1.234,5. The whole column says it, where one of its numbers can mean
 * only one thing; where none does, it is asked and never taken silently: "1.000" is a thousand in one half of the world.
 */

/** The mark before the fraction. */
export type NumberNotation = 'point' | 'comma';

export type ColumnNotation =
  | { settled: NumberNotation }
  /** A number that can be read both ways, or the two that contradict each other. */
  | { ambiguous: string };

const NUMBER = /^[+-]?\d[\d.,'\u00a0\u202f ]*/;
const other = (notation: NumberNotation): NumberNotation =>
  notation === 'point' ? 'comma' : 'point';

/** What one number says of its notation; null where it can be read both ways, undefined where it has no mark. */
function saidBy(text: string): NumberNotation | null | undefined {
  const number = (NUMBER.exec(text.trim())?.[0] ?? '').replace(/['\u00a0\u202f ]/g, '');
  const marks = [...number].filter((sign) => sign === '.' || sign === ',');
  const last = marks.at(-1);
  if (!last) return undefined;
  const named: NumberNotation = last === '.' ? 'point' : 'comma';
  if (marks.some((mark) => mark !== last)) return named;
  // The same mark twice only divides thousands.
  if (marks.length > 1) return other(named);
  const [whole = '', fraction = ''] = number.split(last);
  const thousands = fraction.length === 3 && /^[1-9]\d{0,2}$/.test(whole);
  return thousands ? null : named;
}

/** @example notationOf(['1.000', '2,5']) // { settled: 'comma' } */
export function notationOf(texts: readonly string[]): ColumnNotation {
  const said = texts.map((text) => ({ text: text.trim(), notation: saidBy(text) }));
  const first = (notation: NumberNotation) => said.find((one) => one.notation === notation);
  const [point, comma] = [first('point'), first('comma')];
  if (point && comma) return { ambiguous: `${point.text} and ${comma.text}` };
  if (point || comma) return { settled: point ? 'point' : 'comma' };
  const open = said.find((one) => one.notation === null);
  return open ? { ambiguous: open.text } : { settled: 'point' };
}

/** The number of a cell with a point before its fraction and no marks between thousands; what follows it stays. */
export function plainNumber(text: string, notation: NumberNotation): string {
  const number = NUMBER.exec(text.trim())?.[0];
  if (!number) return text;
  const rest = text.trim().slice(number.length);
  const thousands = notation === 'point' ? /[,'\u00a0\u202f ](?=\d)/g : /[.'\u00a0\u202f ](?=\d)/g;
  const plain = number.replace(thousands, '').replace(notation === 'comma' ? ',' : '.', '.');
  return `${plain}${rest}`;
}
