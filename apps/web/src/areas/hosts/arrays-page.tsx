/** Which array level for these disks: the comparison as a table and drawn, the question kept in the address bar. */
import {
  counted,
  DISK_CLASSES,
  formatBinary,
  formatBoth,
  readDisks,
  type DiskClass,
} from '@insel/core';
import {
  Bar,
  BarChart,
  CartesianGrid,
  LabelList,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import { useUrlState } from '../../client/url-state.js';
import { Hatching } from '../../components/hatching.js';
import { Field } from '../../components/field.js';
import { ArrayOptions, optionsFor } from './array-options.js';

const LEGEND = [
  ['bg-used', 'usable'],
  ['bg-sand', 'redundancy'],
  ['wash', 'idle, since sizes differ'],
] as const;

const percent = (text: string | null, usual: number) =>
  Math.max(1, Math.min(100, Number(text) || usual));

export function ArraysPage() {
  const [search, set] = useUrlState();
  const text = search.get('disks') ?? '8 x 4 TB';
  const { disks, fault } = readDisks(text);
  const diskClass = (DISK_CLASSES as readonly string[]).includes(search.get('class') ?? '')
    ? (search.get('class') as DiskClass)
    : 'enterprise disk';
  const spares = Math.max(0, Math.min(disks.length - 1, Number(search.get('spares')) || 0));
  const reads = percent(search.get('reads'), 70);
  const share = percent(search.get('rebuild'), 50);
  const wish = {
    disks: fault ? [] : disks,
    diskClass,
    spares,
    readShare: reads / 100,
    rebuildShare: share / 100,
  };
  const options = optionsFor(wish);
  const raw = disks.reduce((sum, bytes) => sum + bytes, 0);
  const members = [...disks].sort((a, b) => a - b).slice(0, disks.length - spares);
  const drawn = options.map((option) => {
    const wasted = option.wasted;
    const all = members.reduce((sum, bytes) => sum + bytes, 0);
    return {
      level: option.level,
      usable: option.usable.value,
      redundancy: all - wasted - option.usable.value,
      idle: wasted,
      risk: Math.round(option.unreadable.high.value * 10) / 10,
    };
  });
  return (
    <div className="h-full overflow-y-auto px-6 py-4">
      <h1>Array levels compared</h1>
      <div className="my-3 grid max-w-[980px] grid-cols-2 md:grid-cols-[2fr_1fr_80px_110px_150px] gap-3">
        <Field
          label="Disks"
          error={fault ?? undefined}
          hint={`${counted(disks.length, 'disk')}, ${formatBoth(raw)} raw`}
        >
          <input
            autoFocus
            className="mono"
            value={text}
            onChange={(event) => set({ disks: event.target.value })}
          />
        </Field>
        <Field label="Class">
          <select value={diskClass} onChange={(event) => set({ class: event.target.value })}>
            {DISK_CLASSES.map((found) => (
              <option key={found}>{found}</option>
            ))}
          </select>
        </Field>
        <Field label="Spares">
          <input
            className="mono"
            inputMode="numeric"
            value={search.get('spares') ?? '0'}
            onChange={(event) => set({ spares: event.target.value })}
          />
        </Field>
        <Field label="Reads, %">
          <input
            className="mono"
            inputMode="numeric"
            value={search.get('reads') ?? '70'}
            onChange={(event) => set({ reads: event.target.value })}
          />
        </Field>
        <Field label="Left to a rebuild, %">
          <input
            className="mono"
            inputMode="numeric"
            value={search.get('rebuild') ?? '50'}
            onChange={(event) => set({ rebuild: event.target.value })}
          />
        </Field>
      </div>
      <div className="overflow-x-auto whitespace-nowrap">
        <ArrayOptions {...wish} />
      </div>
      {drawn.length > 0 && (
        <div className="mt-5 grid gap-8 lg:grid-cols-[2fr_1fr]">
          <figure>
            <figcaption className="mb-1 text-xs font-bold text-faint">
              Where the bytes go:{' '}
              {LEGEND.map(([look, word]) => (
                <span key={word} className="mr-3 inline-flex items-center gap-1">
                  <span className={`inline-block h-3 w-5 border border-used ${look}`} aria-hidden />
                  {word}
                </span>
              ))}
            </figcaption>
            <ResponsiveContainer width="100%" height={250}>
              <BarChart data={drawn} layout="vertical" margin={{ left: 10, right: 80 }}>
                <defs>
                  <Hatching id="idle" />
                </defs>
                <CartesianGrid horizontal={false} stroke="var(--rule)" />
                <XAxis
                  type="number"
                  tickFormatter={(value: number) => formatBinary(value, 'down', 0)}
                  stroke="var(--faint)"
                  fontSize={12}
                />
                <YAxis
                  type="category"
                  dataKey="level"
                  width={40}
                  stroke="var(--ink)"
                  fontSize={13}
                />
                <Bar dataKey="usable" stackId="a" fill="var(--used)" isAnimationActive={false} />
                <Bar
                  dataKey="redundancy"
                  stackId="a"
                  fill="var(--sand)"
                  stroke="var(--used)"
                  isAnimationActive={false}
                />
                <Bar dataKey="idle" stackId="a" fill="url(#idle)" isAnimationActive={false}>
                  <LabelList
                    dataKey="usable"
                    position="right"
                    formatter={(value) => formatBinary(Number(value), 'down')}
                    fontSize={12}
                    fill="var(--ink)"
                  />
                </Bar>
              </BarChart>
            </ResponsiveContainer>
          </figure>
          <figure>
            <figcaption className="mb-1 text-xs font-bold text-faint">
              Unreadable sector while rebuilding, worse bound, %
            </figcaption>
            <ResponsiveContainer width="100%" height={250}>
              <BarChart data={drawn} layout="vertical" margin={{ left: 10, right: 50 }}>
                <CartesianGrid horizontal={false} stroke="var(--rule)" />
                <XAxis type="number" domain={[0, 100]} stroke="var(--faint)" fontSize={12} />
                <YAxis
                  type="category"
                  dataKey="level"
                  width={40}
                  stroke="var(--ink)"
                  fontSize={13}
                />
                <Bar dataKey="risk" fill="var(--amber)" isAnimationActive={false}>
                  <LabelList dataKey="risk" position="right" fontSize={12} fill="var(--ink)" />
                </Bar>
              </BarChart>
            </ResponsiveContainer>
          </figure>
        </div>
      )}
      <p className="mt-3 max-w-[980px] text-xs text-faint">
        Members of unequal size count as the smallest one. Operations are small random ones without
        a write cache. Error bounds are the makers’ upper bounds; errors are neither independent nor
        uniform. With one disk lost, levels 6 and 60 still correct an error. An array is no backup.
      </p>
    </div>
  );
}
