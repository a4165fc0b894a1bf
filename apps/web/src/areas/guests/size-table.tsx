/** Processors, memory and disk of a guest that is sized: suggested, taken, what its likes use. */
import type { SizeAnswer } from '@insel/contract';
import { formatBoth, formatMemory } from '@insel/core';
import { Figure } from '../../components/workings.js';
import { readSize, type SizeDraft, type Set } from './size-form.js';
import { useRead } from '../../client/read.js';

export function SizeTable({
  draft,
  set,
  answer,
  profileId,
}: {
  draft: SizeDraft;
  set: Set;
  answer: SizeAnswer;
  profileId: string;
}) {
  const { suggested, chosen, faults: unfit } = answer;
  const similar = useRead('profileUse', { id: profileId }).data?.use;
  const { faults } = readSize(draft);
  const rows = [
    {
      field: 'vcpu' as const,
      title: 'vCPU',
      figure: suggested.vcpu,
      taken: `${chosen.vcpu} vCPU`,
      like: similar?.vcpuP95 == null ? '' : `${similar.vcpuP95.toFixed(1)} vCPU`,
    },
    {
      field: 'memory' as const,
      title: 'Memory',
      figure: suggested.memory,
      taken: formatMemory(chosen.memoryMiB),
      like: similar?.memoryP95MiB == null ? '' : formatMemory(similar.memoryP95MiB, 'up'),
    },
    {
      field: 'system' as const,
      title: 'System volume',
      figure: suggested.system,
      taken: chosen.systemBytes ? formatBoth(chosen.systemBytes) : 'none',
      like: '',
    },
    ...(suggested.data || draft.data
      ? [
          {
            field: 'data' as const,
            title: 'Data volume',
            figure: suggested.data,
            taken: formatBoth(chosen.dataBytes),
            like: '',
          },
        ]
      : []),
  ];
  return (
    <>
      <table className="w-full text-left">
        <thead>
          <tr className="text-xs text-faint">
            <th />
            <th>suggested</th>
            <th>another instead</th>
            <th>taken</th>
            <th>{similar && `its likes use (P95, type 7, of ${similar.guests})`}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.field} className="border-t border-rule">
              <th scope="row" className="py-1 pr-3 font-normal text-faint">
                {row.title}
              </th>
              <td>{row.figure && <Figure figure={row.figure} rounding="up" />}</td>
              <td>
                <input
                  aria-label={`${row.title} instead`}
                  className="mono my-0.5 w-[130px]"
                  aria-invalid={Boolean(faults[row.field])}
                  placeholder="as suggested"
                  value={draft[row.field]}
                  onChange={(event) => set({ [row.field]: event.target.value })}
                />
                {faults[row.field] && (
                  <span className="block text-xs font-bold text-signal">{faults[row.field]}</span>
                )}
              </td>
              <td className="mono">{row.taken}</td>
              <td className="mono">{row.like}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {unfit.map((found) => (
        <p key={found.fault} className="text-[13px]">
          <b
            className={
              found.severity === 'blocker'
                ? 'text-signal'
                : found.severity === 'caution'
                  ? 'text-amber'
                  : ''
            }
          >
            {found.severity === 'blocker'
              ? '■ Too wide.'
              : found.severity === 'caution'
                ? '◆ Caution.'
                : '● Note.'}
          </b>{' '}
          {found.sentence} <span className="text-faint">{found.source.text}.</span>
        </p>
      ))}
    </>
  );
}
