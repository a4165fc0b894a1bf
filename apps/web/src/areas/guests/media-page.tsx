/** The shelf of install media. A file that is dropped is read here for its size and SHA-256; it is not uploaded. */
import { formatDecimal } from '@insel/core';
import { useUrlState } from '../../client/url-state.js';
import { useRead } from '../../client/read.js';
import { Drop } from './medium-drop.js';
import { Medium } from './medium.js';

export function MediaPage() {
  const media = useRead('media');
  const [search, set] = useUrlState();
  const open = search.get('open') ?? media.data?.[0]?.id ?? '';
  const medium = media.data?.find((found) => found.id === open);
  return (
    <div className="grid h-full grid-cols-1 overflow-y-auto lg:grid-cols-[600px_1fr] lg:overflow-hidden">
      <div className="min-w-0 border-ink px-4 py-3 lg:overflow-y-auto lg:border-r">
        <h1>Media shelf</h1>
        <Drop media={media.data ?? []} />
        {media.error && <p className="text-signal">{media.error.message}</p>}
        <table className="mt-2 w-full text-left text-[13px]">
          <thead>
            <tr className="border-b border-ink text-xs">
              <th>Image</th>
              <th>Installs</th>
              <th>Release</th>
              <th className="text-right">Size</th>
              <th className="pl-4 whitespace-nowrap">In drives of</th>
            </tr>
          </thead>
          <tbody>
            {media.data?.map((row) => (
              <tr
                key={row.id}
                className={`border-b border-rule align-top leading-6 ${row.id === open ? 'bg-water' : ''}`}
              >
                <td className="w-[190px] pr-2">
                  <button
                    type="button"
                    aria-current={row.id === open || undefined}
                    className="block min-h-6 cursor-pointer text-left leading-6 font-bold [overflow-wrap:anywhere]"
                    onClick={() => set({ open: row.id })}
                  >
                    {row.name}
                  </button>
                </td>
                <td>
                  {row.platform
                    ? row.platform.name
                    : row.system || (row.family === 'none' ? '–' : row.family)}
                </td>
                <td className="whitespace-nowrap">
                  {row.release}
                  {row.newer && <span className="text-amber"> ◆ old</span>}
                </td>
                <td className="mono text-right whitespace-nowrap">{formatDecimal(row.bytes)}</td>
                <td className="pl-4 whitespace-nowrap">
                  {row.attached.map((guest) => guest.name).join(', ')}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {media.data?.length === 0 && (
          <p className="text-faint">
            Nothing on the shelf. Drop an image above: its name, size and digest are read off it.
          </p>
        )}
      </div>
      <div className="min-w-0 px-5 py-3 lg:overflow-y-auto">
        {medium && <Medium key={medium.id} medium={medium} />}
      </div>
    </div>
  );
}
