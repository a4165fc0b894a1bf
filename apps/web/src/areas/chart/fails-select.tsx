/** What is supposed to fail: nothing, a host, a rack, a site, a switch, a power feed, or two hosts at once. */
import type { Tolerance } from '@insel/core';

const KIND_WORDS = {
  ...{ host: 'host', rack: 'rack', site: 'site', switch: 'switch', feed: 'power feed' },
} as const;

export function FailsSelect({
  value,
  onChange,
  view,
}: {
  value: string;
  onChange: (value: string) => void;
  view: Tolerance | undefined;
}) {
  const groups = view
    ? ([
        ['host', view.hosts],
        ['rack', view.racks],
        ['site', view.sites],
        ['switch', view.switches],
        ['feed', view.feeds],
      ] as const)
    : [];
  const [kind, ids = ''] = value.split(':');
  const together = kind === 'host' || kind === 'hosts' ? ids.split('+') : [];
  return (
    <>
      <select
        aria-label="What fails"
        className="w-[116px] border-b-2 !border-dashed !border-pencil text-pencil"
        value={together.length > 0 ? `host:${together[0]}` : value}
        onChange={(event) => onChange(event.target.value)}
      >
        <option value="">nothing fails</option>
        {groups.map(
          ([kind, lines]) =>
            lines.length > 0 && (
              <optgroup key={kind} label={`a ${KIND_WORDS[kind]}`}>
                {lines.map(({ failed }) => (
                  <option key={failed.id} value={`${kind}:${failed.id}`}>
                    {kind === 'host' ? failed.name : `${KIND_WORDS[kind]} ${failed.name}`}
                  </option>
                ))}
              </optgroup>
            ),
        )}
      </select>
      {together.length > 0 && (
        <select
          aria-label="And at once"
          className="w-[92px] border-b-2 !border-dashed !border-pencil text-pencil"
          value={together[1] ?? ''}
          onChange={(event) =>
            onChange(
              event.target.value
                ? `hosts:${together[0]}+${event.target.value}`
                : `host:${together[0]}`,
            )
          }
        >
          <option value="">alone</option>
          {view?.hosts
            .filter(({ failed }) => failed.id !== together[0])
            .map(({ failed }) => (
              <option key={failed.id} value={failed.id}>
                and {failed.name}
              </option>
            ))}
        </select>
      )}
    </>
  );
}
