/** The same disks in every level they can form: a table, each value with its workings. */
import { compareArrays, type ArrayLevel, type ArrayOption, type DiskClass } from '@insel/core';
import { Figure } from '../../components/workings.js';

export interface Wish {
  disks: readonly number[];
  diskClass: DiskClass;
  spares: number;
  readShare?: number;
  rebuildShare?: number;
}

export const optionsFor = ({ readShare = 0.7, rebuildShare = 0.5, ...wish }: Wish): ArrayOption[] =>
  compareArrays({ ...wish, readShare, rebuildShare });

const oddsWords = (option: ArrayOption) => (option.level === '0' ? '–' : undefined);

export function ArrayOptions({
  brief = false,
  chosen,
  ...wish
}: Wish & { brief?: boolean; chosen?: ArrayLevel }) {
  const options = optionsFor(wish);
  if (options.length === 0) return <p className="text-faint">Two disks or more form an array.</p>;
  return (
    <table className="w-full text-left text-[13px] [&_td+td]:pl-3 [&_th+th]:pl-3">
      <thead className="text-xs text-faint">
        <tr>
          <th>Level</th>
          <th className="text-right">Usable</th>
          <th className="text-right">Survives</th>
          {!brief && <th className="text-right">Write costs</th>}
          {!brief && <th className="text-right">Random op/s</th>}
          <th className="text-right">Rebuild{brief ? ' loaded' : ', idle to loaded'}</th>
          <th className="text-right">Unreadable sector</th>
        </tr>
      </thead>
      <tbody>
        {options.map((option) => (
          <tr
            key={option.level}
            className={`border-t border-rule ${option.level === chosen ? 'bg-water font-bold' : ''}`}
          >
            <td className="py-1">
              <b>{option.level}</b>
              {option.groups > 1 && ` in ${option.groups} groups`}
            </td>
            <td className="text-right">
              <Figure figure={option.usable} rounding="down" />
            </td>
            <td className="text-right">
              {option.survives.worst}
              {option.survives.best > option.survives.worst && ` to ${option.survives.best}`}
            </td>
            {!brief && <td className="mono text-right">{option.writePenalty}</td>}
            {!brief && (
              <td className="text-right">
                <Figure figure={option.iops} />
              </td>
            )}
            <td className="text-right">
              {option.level === '0' ? (
                '–'
              ) : (
                <>
                  {!brief && (
                    <>
                      <Figure figure={option.rebuildIdle} /> to{' '}
                    </>
                  )}
                  <Figure figure={option.rebuildLoaded} />
                </>
              )}
            </td>
            <td className="text-right">
              {oddsWords(option) ?? (
                <>
                  {!brief && (
                    <>
                      <Figure figure={option.unreadable.low} /> to{' '}
                    </>
                  )}
                  <Figure figure={option.unreadable.high} />
                </>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
