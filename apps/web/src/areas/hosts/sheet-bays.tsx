/** The bays of a host: every disk where it sits, arrays as brackets, what is usable, how long a rebuild takes, what may go wrong. */
import type { ArrayView, HostSheet } from '@insel/contract';
import { formatBinary, formatDecimal, printValue, type Row } from '@insel/core';
import { Link } from 'react-router';
import { Part } from '../../components/sheet.js';
import { Figure } from '../../components/workings.js';
import { useMayPlan } from '../../client/session.js';

export function BaysPart({ sheet }: { sheet: HostSheet }) {
  const mayPlan = useMayPlan();
  const { host, arrays, disks } = sheet;
  const free = Math.max(0, (host.bays ?? 0) - disks.length);
  const loose = disks.filter((disk) => !disk.arrayId);
  const edit = mayPlan && (
    <Link className="act" to={`/hosts/${host.id}/hardware`}>
      {disks.length ? 'Alter disks, arrays, ports, modules' : 'Record disks, ports, modules'}
    </Link>
  );
  return (
    <Part title="Bays">
      <div className="flex flex-wrap items-start gap-x-4 gap-y-2">
        {[...arrays]
          .sort((a, b) => firstBay(a).localeCompare(firstBay(b), undefined, { numeric: true }))
          .map((array) => (
            <ArrayGroup key={array.id} array={array} />
          ))}
        {loose.length > 0 && (
          <div>
            <div className="flex gap-1">
              {loose.map((disk) => (
                <Bay key={disk.id} disk={disk} share={0} />
              ))}
            </div>
            <p className="mt-1 text-[13px] text-faint">outside every array</p>
          </div>
        )}
        {free > 0 && (
          <div className="flex flex-wrap gap-1">
            {Array.from({ length: Math.min(free, 16) }, (_, i) => (
              <span
                key={i}
                className="h-[44px] w-[58px] border border-dashed border-used px-1 text-[11px] text-faint"
              >
                empty
              </span>
            ))}
          </div>
        )}
      </div>
      {disks.length === 0 && <p className="text-faint">Nothing is recorded about its disks yet.</p>}
      <p className="mt-1 flex flex-wrap gap-4">
        {edit}
        {disks.length > 1 && (
          <Link
            className="act"
            to={`/hosts/arrays?disks=${disks
              .filter((disk) => disk.bytes > 0)
              .map((disk) => `${disk.bytes}B`)
              .join(',')}&class=${encodeURIComponent(disks[0]!.class)}`}
          >
            Compare array levels with these disks
          </Link>
        )}
      </p>
    </Part>
  );
}

/** A bay: the darker foot is the share of it that goes into redundancy. */
function Bay({ disk, share }: { disk: Row<'disk'>; share: number }) {
  const title = [
    `bay ${disk.bay}`,
    disk.model,
    disk.serial && `serial ${disk.serial}`,
    `${disk.bytes.toLocaleString('en-GB')} bytes`,
    formatBinary(disk.bytes),
    disk.class,
    disk.spare && 'spare',
  ]
    .filter(Boolean)
    .join(', ');
  return (
    <span
      title={title}
      className={`relative h-[44px] w-[64px] overflow-hidden border border-ink px-1 text-[12px] leading-tight ${disk.spare ? 'wash' : 'bg-sand'}`}
    >
      <span
        className="absolute inset-x-0 bottom-0 bg-used/40"
        style={{ height: `${share * 100}%` }}
        aria-hidden
      />
      <span className="relative block truncate">{disk.bay}</span>
      <span className="mono relative block truncate">
        {formatDecimal(disk.bytes, 'nearest', disk.bytes < 1e12 ? 0 : 1)}
      </span>
      <span className="sr-only">{disk.spare ? 'spare' : ''}</span>
    </span>
  );
}

const firstBay = (array: ArrayView): string => array.disks[0]?.bay ?? '';

const REDUNDANCY: Record<Row<'array'>['level'], string> = {
  '0': 'no redundancy',
  '1': 'mirrored',
  '10': 'striped mirrors',
  '5': 'one parity disk',
  '6': 'two parity disks',
  '50': 'one parity disk a group',
  '60': 'two parity disks a group',
};

function ArrayGroup({ array }: { array: ArrayView }) {
  const { option, disks } = array;
  const spares = disks.filter((disk) => disk.spare).length;
  const members = disks.filter((disk) => !disk.spare);
  const raw = members.reduce((sum, disk) => sum + disk.bytes, 0);
  const share = option && raw ? 1 - option.usable.value / raw : 0;
  const { low, high } = option?.unreadable ?? {};
  return (
    <div style={{ maxWidth: Math.max(200, disks.length * 68) }}>
      <div className="flex flex-wrap gap-1">
        {disks.map((disk) => (
          <Bay key={disk.id} disk={disk} share={disk.spare ? 0 : share} />
        ))}
      </div>
      <div className="mt-0.5 h-[5px] border border-t-0 border-ink" aria-hidden />
      <p className="text-[13px]">
        <b>{array.name}</b>, {REDUNDANCY[array.level]}
        {spares ? `, ${spares} spare` : array.level === '0' ? '' : ', no spare'} · {array.purpose}
      </p>
      {option ? (
        <p className="text-[13px]">
          <Figure figure={option.usable} rounding="down" /> usable, survives {option.survives.worst}
          {option.survives.best > option.survives.worst ? ` to ${option.survives.best}` : ''}
          {array.level !== '0' && (
            <>
              , rebuild <Figure figure={option.rebuildIdle} /> to{' '}
              <Figure figure={option.rebuildLoaded} />
            </>
          )}
        </p>
      ) : (
        <p className="text-[13px] font-bold text-signal">
          ■ these disks cannot form level {array.level}
        </p>
      )}
      {low && high && high.value >= 0.05 && (
        <p className="text-[13px]">
          {high.value >= 5 && <span className="text-amber">◆ </span>}unreadable sector while
          rebuilding{' '}
          {low.value < 0.1 ? 'below 0.1' : printValue(low.value, 'percent').replace(' %', '')} to{' '}
          <Figure figure={high} />
        </p>
      )}
    </div>
  );
}
