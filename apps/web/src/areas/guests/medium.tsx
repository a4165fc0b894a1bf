/** One medium of the shelf, with what is known of it. */
import type { MediumView } from '@insel/contract';
import { formatBoth, parseBytes, FAMILIES } from '@insel/core';
import { Link } from 'react-router';
import { Editable, asText } from '../../components/editable.js';
import { SheetFindings } from '../../components/finding-line.js';
import { ProblemNote } from '../../components/problem.js';
import { Facts, Fact } from '../../components/sheet.js';
import { OneOf, TextEdit } from '../../components/small-edits.js';
import { useChange, editing } from '../../client/change.js';
import { useRead } from '../../client/read.js';
import { useMayPlan } from '../../client/session.js';

const INSTALLS = [
  { value: 'full', label: 'full medium, works offline' },
  { value: 'network', label: 'network install' },
  { value: 'drivers', label: 'drivers' },
  { value: 'other', label: 'something else' },
];
const day = (text: string): { ok: true; value: string | null } | { ok: false; sentence: string } =>
  text.trim() === ''
    ? { ok: true, value: null }
    : /^\d{4}-\d{2}-\d{2}$/.test(text.trim())
      ? { ok: true, value: text.trim() }
      : { ok: false, sentence: 'Write a day as 2026-05-31.' };
const digest = (text: string) =>
  /^([0-9a-f]{64})?$/i.test(text.trim())
    ? { ok: true as const, value: text.trim().toLowerCase() }
    : { ok: false as const, sentence: 'A SHA-256 has 64 hexadecimal digits.' };
export function Medium({ medium }: { medium: MediumView }) {
  const mayPlan = useMayPlan();
  const pools = useRead('pools').data ?? [];
  const platforms = useRead('platforms').data ?? [];
  const { make, problem } = useChange();
  const at = editing('medium.edit', medium);
  const none = { value: '', label: 'none' };
  return (
    <article aria-label={`Medium ${medium.name}`}>
      <div className="mb-2 flex items-baseline gap-4">
        <h2 className="text-[18px] font-bold">
          <Editable at={at('name')} name="Name" value={medium.name} show={String} parse={asText} />
        </h2>
        {mayPlan && (
          <button
            type="button"
            className="act ml-auto"
            onClick={() => void make('medium.remove', { id: medium.id }, { seen: medium })}
          >
            Take it off the shelf
          </button>
        )}
      </div>
      <ProblemNote problem={problem} />
      <SheetFindings findings={medium.findings} />
      <Facts>
        <Fact name="Size">
          <Editable
            at={at('bytes')}
            name="Size"
            value={medium.bytes}
            show={formatBoth}
            write={(value) => `${value} B`}
            parse={parseBytes}
            mono
          />
        </Fact>
        <Fact name="Kind">
          <OneOf at={at('install')} name="Kind" value={medium.install} choices={INSTALLS} />
        </Fact>
        <Fact name="Installs">
          <TextEdit at={at('system')} name="Installs" value={medium.system} />
        </Fact>
        <Fact name="Family">
          <OneOf
            at={at('family')}
            name="Family"
            value={medium.family}
            choices={[{ value: 'none', label: 'not for guests' }, ...FAMILIES]}
          />
        </Fact>
        <Fact name="Release">
          <TextEdit at={at('release')} name="Release" value={medium.release} mono />
        </Fact>
        <Fact name="Of the day">
          <Editable<string | null>
            at={at('releasedOn')}
            name="Of the day"
            value={medium.releasedOn}
            show={(value) => value ?? 'not known'}
            write={(value) => value ?? ''}
            parse={day}
            mono
          />
        </Fact>
        <Fact name="In pool">
          <OneOf<string | null>
            at={at('poolId')}
            name="In pool"
            value={medium.poolId}
            choices={[none, ...pools.map((pool) => ({ value: pool.id, label: pool.name }))]}
          />
        </Fact>
        <Fact name="Kept at">
          <TextEdit at={at('kept')} name="Kept at" value={medium.kept} />
        </Fact>
        <Fact name="For platform">
          <OneOf<string | null>
            at={at('platformId')}
            name="For platform"
            value={medium.platformId}
            choices={[
              none,
              ...platforms.map((platform) => ({ value: platform.id, label: platform.name })),
            ]}
          />
        </Fact>
      </Facts>
      <dl>
        <Fact name="SHA-256">
          <Editable
            at={at('sha256')}
            name="SHA-256"
            value={medium.sha256}
            show={(value) =>
              value ? value.replace(/(.{8})(?=.)/g, '$1 ') : 'not known: drop the file to read it'
            }
            write={String}
            parse={digest}
            mono
          />
        </Fact>
      </dl>
      <h3 className="mt-3 font-bold">In drives of</h3>
      {medium.attached.map((guest) => (
        <p key={guest.id}>
          <Link
            className="inline-block min-h-6 min-w-6 leading-6 underline decoration-rule"
            to={`/guests/${guest.id}`}
          >
            {guest.name}
          </Link>
          , {guest.state}
          {guest.atPowerOn ? ', connected at power-on' : ''}
        </p>
      ))}
      {medium.attached.length === 0 && <p className="text-faint">no guest</p>}
    </article>
  );
}
