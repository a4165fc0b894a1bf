/** A program of linear terms, as it is written for the solver. */
export interface Term {
  factor: number;
  name: string;
}
export const term = (factor: number, name: string): Term => ({ factor, name });

/** A program as it is written down. Columns that are not whole numbers are at least 0. */
export class Program {
  private readonly rows: string[] = [];
  private readonly costs: Term[] = [];
  private readonly wholes = new Map<string, { least: number; most: number }>();

  whole(name: string, most: number, least = 0): void {
    this.wholes.set(name, { least, most });
  }

  row(terms: readonly Term[], sign: '=' | '<=', bound: number): void {
    if (terms.length > 0) this.rows.push(`${written(terms)} ${sign} ${bound}`);
  }

  cost(factor: number, name: string): void {
    if (factor !== 0) this.costs.push(term(factor, name));
  }

  text(inWhole: boolean): string {
    return [
      'Minimize',
      ` cost: ${written(this.costs)}`,
      'Subject To',
      ...this.rows.map((row, i) => ` r${i}: ${row}`),
      'Bounds',
      ...[...this.wholes].map(([name, { least, most }]) => ` ${least} <= ${name} <= ${most}`),
      ...(inWhole ? ['General', ...[...this.wholes.keys()].map((name) => ` ${name}`)] : []),
      'End',
    ].join('\n');
  }
}
const written = (terms: readonly Term[]): string =>
  terms
    .map(({ factor, name }) => `${factor < 0 ? '-' : '+'} ${Math.abs(factor)} ${name}`)
    .join(' ');
