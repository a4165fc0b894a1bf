/** What a placing is best by, as a part of its linear program: fewest hosts, evenly filled ones, cheapest licences. */
import { BEYOND, type PlacingAim, shareOf } from './aims.js';
import { Program, type Term, term } from './linear-program.js';
import type { PackingQuestion } from './question.js';

export const x = (kind: number, host: number): string => `x${kind}_${host}`;

interface Parts {
  question: PackingQuestion;
  kinds: readonly (readonly number[])[];
  onHost: readonly (readonly number[])[];
  takes: (host: number, d: number, scale?: number) => Term[];
  mostOf: ReadonlyMap<string, number>;
  least: number;
}

/** Shares are fractions. */
export const NEARLY = 1e-9;

/** @returns what one without a place weighs */
export function addAim(
  model: Program,
  aim: PlacingAim,
  { question, kinds, onHost, takes, mostOf, least }: Parts,
): number {
  const receiving = [...onHost.keys()].filter((host) => onHost[host]!.length > 0);
  const uses = (host: number, name: string): void => {
    model.whole(name, 1);
    for (const kind of onHost[host]!)
      model.row([term(1, x(kind, host)), term(-mostOf.get(x(kind, host))!, name)], '<=', 0);
  };
  if (aim.by === 'fewest') {
    for (const host of receiving.filter((one) => !aim.used[one])) {
      uses(host, `y${host}`);
      model.cost(1, `y${host}`);
      for (let d = 0; d < question.dims; d += 1) {
        const terms = takes(host, d);
        if (terms.length > 0)
          model.row(
            [...terms, term(-Math.max(0, question.room[host * question.dims + d]!), `y${host}`)],
            '<=',
            0,
          );
      }
    }
    return question.hosts + 1;
  }
  if (aim.by === 'even') {
    model.cost(1, 't');
    model.row([term(-1, 't')], '<=', -least);
    for (const host of receiving) {
      // Below what is needed anyway it does not matter whether it takes any.
      const counts = shareOf(question, aim, host, () => 0) > least;
      if (counts) uses(host, `y${host}`);
      for (let d = 0; d < question.dims; d += 1) {
        const at = host * question.dims + d;
        const has = aim.has[at]!;
        if (has <= 0) continue;
        const share = Math.max(0, aim.taken[at]! / has);
        const terms = takes(host, d, 1 / has);
        if (counts) model.row([...terms, term(share, `y${host}`), term(-1, 't')], '<=', 0);
        else if (terms.length > 0) model.row([...terms, term(-1, 't')], '<=', -share);
      }
    }
    return 1000;
  }
  let all = 1;
  for (const [i, licence] of aim.licences.entries()) {
    const used: Term[] = [];
    let before = 0;
    for (const host of onHost.keys()) {
      const standing = licence.standing[host]!;
      const covered = onHost[host]!.filter((kind) => licence.covers[kinds[kind]![0]!]);
      const copies = covered.reduce((sum, kind) => sum + mostOf.get(x(kind, host))!, 0);
      const step = licence.copies === 0 ? standing + copies : licence.copies;
      const already = standing === 0 ? 0 : licence.copies === 0 ? 1 : Math.ceil(standing / step);
      if (copies === 0) {
        before += already * licence.once[host]!;
        continue;
      }
      // How often the host is licensed.
      const times = `k${i}_${host}`;
      model.whole(times, Math.ceil((standing + copies) / step), already);
      model.row(
        [...covered.map((kind) => term(1, x(kind, host))), term(-step, times)],
        '<=',
        -standing,
      );
      if (licence.once[host]! > 0) used.push(term(licence.once[host]!, times));
      all +=
        Math.ceil((standing + copies) / step) * licence.once[host]! * (BEYOND * licence.price + 1);
    }
    all += before * (BEYOND * licence.price + 1);
    model.row([...used, term(-1, `u${i}`)], '=', -before);
    model.row([term(1, `u${i}`), term(-1, `o${i}`)], '<=', licence.allowed);
    model.cost(1, `u${i}`);
    model.cost(BEYOND * licence.price, `o${i}`);
  }
  return all;
}
