/** Two or three things that could be bought, compared by what they give: how much later it runs out, for rack unit, watt and price. */
import type { GrowthView } from '@insel/contract';
import { runsOut, type Growth } from '@insel/core';
import { useKeptForm } from '../../components/kept-form.js';
import { amount } from './amount.js';

interface Candidate {
  name: string;
  /** GiB or cores, as the place is counted. */
  gives: string;
  units: string;
  watts: string;
  price: string;
}
const NEW: Candidate = { name: '', gives: '', units: '', watts: '', price: '' };
const MOST = 3;

/** What a candidate gives is typed in these: so many of the place's own unit each. */
const GIVEN = {
  MiB: {
    unit: 'GiB',
    each: 1024,
    label: 'GiB for guests',
    usual: ['one more host', 'more modules'],
  },
  vCPU: { unit: 'vCPU', each: 1, label: 'vCPU for guests', usual: ['one more host', 'more cores'] },
  bytes: { unit: 'GiB', each: 2 ** 30, label: 'GiB usable', usual: ['more disks', 'larger disks'] },
} as const;
type Given = (typeof GIVEN)[keyof typeof GIVEN];

/** Null: nobody buys addresses. */
export const givenOf = ({ unit }: Growth): Given | null =>
  unit === 'addresses' ? null : GIVEN[unit];

const number = (text: string): number | null => {
  const value = Number(text.trim().replace(',', '.'));
  return text.trim() === '' || !Number.isFinite(value) || value < 0 ? null : value;
};

export function BuyList({
  growth,
  view,
  given,
}: {
  growth: Growth;
  view: GrowthView;
  given: Given;
}) {
  const {
    values: draft,
    set,
    control,
  } = useKeptForm(`buy:${growth.place.id}:${growth.resource}`, () => ({
    candidates: given.usual.map((name): Candidate => ({ ...NEW, name })),
  }));
  const now = growth.runway;
  return (
    <>
      <p className="text-[13px] text-faint">
        Prices and draws are what you type; none is shipped. Watts are planning figures: circuits
        are for a licensed electrician.
      </p>
      {draft.candidates.map((one, i) => (
        <section
          key={i}
          aria-label={`Candidate ${i + 1}`}
          className="border-b border-rule py-2 text-[13px]"
        >
          <div className="flex flex-wrap gap-x-3">
            {(['name', 'gives', 'units', 'watts', 'price'] as const).map((field) => (
              <label key={field} className="flex flex-col text-xs font-bold text-faint">
                {field === 'gives' ? given.label : FIELD[field]}
                <input
                  aria-label={`${FIELD[field]} of candidate ${i + 1}`}
                  className={`font-normal text-ink ${field === 'name' ? 'w-[130px]' : 'mono w-[84px]'}`}
                  {...control(`candidates.${i}.${field}`)}
                />
              </label>
            ))}
          </div>
          <Comes growth={growth} view={view} one={one} given={given} />
        </section>
      ))}
      {draft.candidates.length < MOST && (
        <button
          type="button"
          className="act mt-1"
          onClick={() => set({ candidates: [...draft.candidates, NEW] })}
        >
          A third one
        </button>
      )}
      {now?.state !== 'filling' && (
        <p className="text-faint">It is not filling by its trend: nothing runs out later.</p>
      )}
    </>
  );
}

const FIELD = {
  name: 'Name',
  gives: 'Room',
  units: 'Rack units',
  watts: 'Watts',
  price: 'Price',
};

function Comes({
  growth,
  view,
  one,
  given: { unit, each },
}: {
  growth: Growth;
  view: GrowthView;
  one: Candidate;
  given: Given;
}) {
  const given = number(one.gives);
  if (given === null) return <p className="mt-1 text-faint">Say what it gives.</p>;
  const more = given * each;
  const then = runsOut(growth, growth.points, view.now, more);
  const was = growth.runway?.state === 'filling' ? growth.runway.days : null;
  const days = then?.state === 'filling' ? then.days : null;
  const [units, watts, price] = [one.units, one.watts, one.price].map(number);
  const short = (value: number) =>
    Number(value.toPrecision(3)).toLocaleString('en-GB', { maximumFractionDigits: 3 });
  const per = [
    units && `${short(given / units)} ${unit} for each rack unit`,
    watts && `${short(given / watts)} ${unit} for each watt`,
    price && given > 0 && `price ${short(price / given)} for each ${unit}`,
  ].filter(Boolean);
  return (
    <p className="mt-1">
      Runs out then:{' '}
      <b className="text-pencil">
        {then === null || then.state === 'not filling'
          ? `not by its trend; ${amount(growth, growth.limit + more)} may be taken`
          : then.state === 'full already'
            ? 'full already, even so'
            : then.notBefore
              ? `not before ${then.notBefore}`
              : then.on}
      </b>
      {was !== null && days !== null && `, ${days - was} days later by its trend`}
      {per.length > 0 && <span className="text-faint">; {per.join(', ')}</span>}.
    </p>
  );
}
