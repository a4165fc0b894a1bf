/** New guests, many at once: asked in lots, placed by fewest hosts, evenness or licences with the bound beside, drawn as a plan. */
import type { LotBody, PlaceBatchBody, PlacedBatchView } from '@insel/contract';
import { BATCH_AIMS, MOST_LOTS, type BatchAim } from '@insel/core';
import { useState } from 'react';
import { LinkField } from '../../components/link-field.js';
import { Field, type Errors } from '../../components/field.js';
import { useKeptForm } from '../../components/kept-form.js';
import { read, useRead } from '../../client/read.js';
import { FoundPlaces } from './found-places.js';
import { LotCard } from './lots.js';
import { EMPTY_LOT, readLot, type LotDraft } from './lot-draft.js';
import {
  GroupField,
  NO_GROUP,
  SearchPage,
  SecondsField,
  useHostsOf,
  useSearch,
} from './search-parts.js';

const AIM_WORDS: Record<BatchAim, string> = {
  fewest: 'As few hosts as can be',
  even: 'As evenly as can be',
  licences: 'With the cheapest licences',
};

export type BatchQuestion = Omit<PlaceBatchBody, 'search'>;

interface Found {
  question: BatchQuestion;
  answer: PlacedBatchView;
}

export function PlacePage() {
  const { look, ...search } = useSearch(
    async (searching, question: BatchQuestion): Promise<Found> => ({
      question,
      answer: await read('placedBatch', { ...question, search: searching }),
    }),
  );
  const { found, name } = search;
  return (
    <SearchPage
      width={400}
      title="Place new guests"
      about="Guests that are to be, in lots that are alike each. Rules, pools, networks and processors are asked of as for any guest."
      question={<Question look={look} busy={name !== null} />}
      search={search}
      hint="Where they go stands here: how many on which host, what each host has left and which may still fail, what is proved of it, and for whoever has no place what it lacks."
    >
      {found && <FoundPlaces key={found.answer.revision} {...found} />}
    </SearchPage>
  );
}

const EMPTY = {
  group: '',
  lots: [EMPTY_LOT],
  aim: 'fewest' as BatchAim,
  prices: {} as Record<string, string>,
  makesRoom: false,
  keepTolerance: true,
  linkBitsPerSecond: 1e9,
  seconds: 5,
};

function Question({
  look,
  busy,
}: {
  look: (question: BatchQuestion) => Promise<void>;
  busy: boolean;
}) {
  const groups = useRead('hostGroups').data ?? [];
  const { values: draft, set, ticked } = useKeptForm('place-batch', () => EMPTY);
  const [errors, setErrors] = useState<Errors[]>([]);
  const largest = groups.reduce<(typeof groups)[number] | undefined>(
    (most, one) => (most && most.hosts.length >= one.hosts.length ? most : one),
    undefined,
  );
  const group = draft.group || (largest?.id ?? NO_GROUP);
  const hosts = useHostsOf(group).hosts;
  const { aim, makesRoom, keepTolerance, linkBitsPerSecond, seconds } = draft;
  // What an older page kept may lack a field.
  const lots = draft.lots.map((lot) => ({ ...EMPTY_LOT, ...lot }));
  const setLot = (at: number, more: Partial<LotDraft>) =>
    set({ lots: lots.map((lot, i) => (i === at ? { ...lot, ...more } : lot)) });
  const send = () => {
    const read = lots.map(readLot);
    setErrors(read.map((one) => ('errors' in one ? one.errors : {})));
    const good = read.flatMap((one): LotBody[] => ('lot' in one ? [one.lot] : []));
    if (good.length < read.length) return;
    void look({
      groupId: group === NO_GROUP ? null : group,
      lots: good,
      ...{ aim, makesRoom, keepTolerance, linkBitsPerSecond, seconds },
      prices: Object.entries(draft.prices).flatMap(([entitlementId, price]) =>
        /^\d+$/.test(price) ? [{ entitlementId, price: Number(price) }] : [],
      ),
    });
  };
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        send();
      }}
    >
      {lots.map((lot, i) => (
        <LotCard
          key={i}
          draft={lot}
          number={i + 1}
          errors={errors[i] ?? {}}
          hostIds={new Set(hosts.map(({ id }) => id))}
          set={(more) => setLot(i, more)}
          drop={lots.length > 1 ? () => set({ lots: lots.filter((_, at) => at !== i) }) : null}
        />
      ))}
      {lots.length < MOST_LOTS && (
        <button
          type="button"
          className="act self-start"
          onClick={() => set({ lots: [...lots, { ...lots.at(-1)!, pattern: '' }] })}
        >
          Another lot
        </button>
      )}
      <GroupField value={group} onChange={(id) => set({ group: id })} />
      <fieldset>
        <legend className="text-xs font-bold text-faint">What is wanted</legend>
        {BATCH_AIMS.map((one) => (
          <label key={one} className="flex min-h-6 items-center gap-2">
            <input
              type="radio"
              name="aim"
              checked={aim === one}
              onChange={() => set({ aim: one })}
            />
            {AIM_WORDS[one]}
          </label>
        ))}
      </fieldset>
      {aim === 'licences' && <Prices prices={draft.prices} set={(prices) => set({ prices })} />}
      <label className="flex min-h-6 items-center gap-2">
        <input type="checkbox" {...ticked('keepTolerance')} />
        Hosts that may fail now must still be able to
      </label>
      <label className="flex min-h-6 items-center gap-2">
        <input type="checkbox" {...ticked('makesRoom')} />
        Others may move to make room
      </label>
      {makesRoom && (
        <LinkField
          value={linkBitsPerSecond}
          onChange={(rate) => set({ linkBitsPerSecond: rate })}
        />
      )}
      <SecondsField value={seconds} onChange={(some) => set({ seconds: some })} />
      <button type="submit" className="act mt-1 self-start" disabled={busy}>
        Find places
      </button>
    </form>
  );
}

/** What a unit beyond those that are allowed costs: typed by whoever asks, kept nowhere else. */
function Prices({
  prices,
  set,
}: {
  prices: Record<string, string>;
  set: (prices: Record<string, string>) => void;
}) {
  const licences = (useRead('entitlements').data ?? []).filter(
    ({ unit }) => unit !== 'copy' && unit !== 'user',
  );
  if (licences.length === 0)
    return <p className="text-faint">No licence on record is counted by hosts.</p>;
  return (
    <fieldset className="border border-rule px-2 py-1">
      <legend className="text-xs font-bold text-faint">Price of one more, in any currency</legend>
      {licences.map(({ id, name, unit }) => (
        <Field key={id} label={`${name}, for a ${unit}`}>
          <input
            inputMode="numeric"
            placeholder="1"
            value={prices[id] ?? ''}
            onChange={(event) => set({ ...prices, [id]: event.target.value })}
          />
        </Field>
      ))}
    </fieldset>
  );
}
