/** Volumes of a guest: size, pool, bus, how they are kept; more of them, larger, elsewhere, gone. */
import type { GuestSheet } from '@insel/contract';
import { formatBoth, parseBytes } from '@insel/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { useMayPlan } from '../../client/session.js';
import { editing, useChange } from '../../client/change.js';
import { asText, Editable } from '../../components/editable.js';
import { ProblemNote } from '../../components/problem.js';
import { Part } from '../../components/sheet.js';
import { OneOf, YesNo } from '../../components/small-edits.js';
import { useRead } from '../../client/read.js';
import { AddVolume, BUSES } from './add-volume.js';

type VolumeView = GuestSheet['volumes'][number];
export function VolumesPart({ sheet }: { sheet: GuestSheet }) {
  const { guest, volumes } = sheet;
  const pools = useRead('pools').data;
  const reached = pools?.filter((pool) => pool.hosts.some((host) => host.id === guest.hostId));
  return (
    <Part title="Volumes">
      {volumes.map((volume) => (
        <VolumeLine key={volume.id} volume={volume} sheet={sheet} />
      ))}
      {volumes.length === 0 && <p className="text-faint">No volume.</p>}
      <AddVolume sheet={sheet} pools={reached} />
    </Part>
  );
}

function VolumeLine({ volume, sheet }: { volume: VolumeView; sheet: GuestSheet }) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const [sure, setSure] = useState('');
  const [gone, setGone] = useState(false);
  const [moving, setMoving] = useState(false);
  const at = editing('volume.edit', volume);
  return (
    <div className="border-b border-rule py-0.5">
      <div className="grid grid-cols-1 items-baseline gap-x-3 md:grid-cols-[120px_1fr_170px]">
        <b className="truncate">
          <Editable
            at={at('label')}
            name={`Name of ${volume.label}`}
            value={volume.label}
            show={String}
            parse={asText}
          />
        </b>
        <Editable
          at={at('bytes')}
          name={`Size of ${volume.label}`}
          value={volume.bytes}
          show={formatBoth}
          write={(value) => `${value} B`}
          parse={parseBytes}
          mono
        />
        <span>
          pool{' '}
          <Link className="underline decoration-rule" to={`/guests/pools?open=${volume.pool.id}`}>
            {volume.pool.name}
          </Link>
          {mayPlan && (
            <button
              type="button"
              className="act ml-2 text-[12px]"
              aria-expanded={moving}
              aria-label={`Move ${volume.label}`}
              onClick={() => setMoving(!moving)}
            >
              Move
            </button>
          )}
        </span>
      </div>
      <div className="flex flex-wrap items-baseline gap-x-4 text-[13px]">
        {volume.use === 'UEFI variables' && <span className="text-faint">UEFI variables</span>}
        <YesNo
          at={at('thin')}
          name={`Allocation of ${volume.label}`}
          value={volume.thin}
          yes="grows later (thin)"
          no="allocated"
        />
        <OneOf at={at('bus')} name={`Bus of ${volume.label}`} value={volume.bus} choices={BUSES} />
        <YesNo
          at={at('split')}
          name={`Files of ${volume.label}`}
          value={volume.split}
          yes="several files"
          no="one file"
        />
        <span className="text-faint">
          really takes{' '}
          <Editable<number | null>
            at={at('usedBytes')}
            name={`Taken by ${volume.label}`}
            value={volume.usedBytes}
            show={(value) => (value === null ? 'not looked at' : formatBoth(value))}
            write={(value) => (value === null ? '' : `${value} B`)}
            parse={(text) => (text.trim() === '' ? { ok: true, value: null } : parseBytes(text))}
            mono
          />
        </span>
        {volume.base && (
          <span className="text-faint">
            shares the blocks of {volume.base.name} of{' '}
            <Link className="underline decoration-rule" to={`/guests/${volume.base.guest.id}`}>
              {volume.base.guest.name}
            </Link>
          </span>
        )}
        {volume.dependents > 0 && (
          <span className="text-amber">
            ◆ base of {volume.dependents} dependent {volume.dependents === 1 ? 'volume' : 'volumes'}
            : neither alter nor delete it
          </span>
        )}
        {mayPlan && !gone && (
          <button type="button" className="act text-[12px]" onClick={() => setGone(true)}>
            {volume.label} was deleted
          </button>
        )}
      </div>
      {moving && (
        <Moving
          volume={volume}
          running={sheet.guest.state === 'in service'}
          done={() => setMoving(false)}
        />
      )}
      <Grown bytes={volume.bytes} sheet={sheet} />
      {gone && (
        <div className="my-1 flex flex-wrap items-center gap-2 border-l-4 border-signal pl-3">
          <span>
            Record that its data is gone for good. Write its name, <b>{volume.label}</b>:
          </span>
          <input
            aria-label="Name of the deleted volume"
            value={sure}
            onChange={(event) => setSure(event.target.value)}
          />
          <button
            type="button"
            className="act"
            disabled={sure.trim() !== volume.label}
            onClick={() => void make('volume.delete', { id: volume.id }, { seen: volume })}
          >
            Its data is gone
          </button>
          <button type="button" className="act" onClick={() => setGone(false)}>
            Drop
          </button>
        </div>
      )}
      <ProblemNote problem={problem} />
    </div>
  );
}

/** Where else a volume could lie, with what is left there; recorded once it lies there. */
function Moving({
  volume,
  running,
  done,
}: {
  volume: VolumeView;
  running: boolean;
  done: () => void;
}) {
  const places = useRead('volumePlaces', { id: volume.id }).data;
  const { make, busy, problem } = useChange();
  const move = async (poolId: string) => {
    if (await make('volume.edit', { id: volume.id, poolId }, { seen: volume })) done();
  };
  return (
    <div className="my-1 border-l-4 border-rule pl-3 text-[13px]">
      {places?.length === 0 && (
        <p className="text-faint">
          Its host reaches no other pool. To another host it goes with its guest, by a migration.
        </p>
      )}
      {places?.map((pool) => (
        <p key={pool.poolId} className="flex flex-wrap items-baseline gap-x-3">
          <b>{pool.name}</b> {!pool.fits && <span className="text-signal">■ no room</span>}{' '}
          <span>{pool.sentence}</span>
          <button
            type="button"
            className="act text-[12px]"
            disabled={busy}
            onClick={() => void move(pool.poolId)}
          >
            It lies in {pool.name} now
          </button>
        </p>
      ))}
      {places && places.length > 0 && (
        <p>
          <b className="text-amber">◆ Caution.</b>{' '}
          {running
            ? 'Not every platform moves the disk of a running guest: stop it first where yours does not. '
            : ''}
          Until the copy is checked, keep the old one; both take room meanwhile.
          {volume.dependents > 0
            ? ' Dependent clones share its blocks: moved away from them, they break.'
            : ''}
        </p>
      )}
      <ProblemNote problem={problem} />
    </div>
  );
}

/** Told once a volume has been made larger while its sheet is open: the guest inside does not follow by itself. */
function Grown({ bytes, sheet }: { bytes: number; sheet: GuestSheet }) {
  const [first] = useState(bytes);
  if (bytes === first) return null;
  const running = sheet.guest.state === 'in service' || sheet.guest.state === 'stopped';
  if (bytes < first)
    return (
      <p className="text-[13px]">
        <b className="text-signal">■ Smaller now.</b> File system and partition must have been made
        smaller inside first; done the other way round, what lay at the end is lost.
      </p>
    );
  if (!running) return null;
  return (
    <p className="text-[13px]">
      <b className="text-amber">◆ Larger now.</b> Inside, the partition is still as small as before:
      extend the partition, then the file system on it. Never make one smaller blindly.
    </p>
  );
}
