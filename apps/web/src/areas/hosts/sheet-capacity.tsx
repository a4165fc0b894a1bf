/** Processors and memory of a host: what is there, what is left, what limits. */
import type { HostSheet } from '@insel/contract';
import { ARCHITECTURES, formatMemory, type Row } from '@insel/core';
import { Fact, Facts, Part } from '../../components/sheet.js';
import { Figure } from '../../components/workings.js';
import { ChoiceField, MemoryField, NumberField, TextField } from './host-field.js';
import { useRead } from '../../client/read.js';

export function CapacityPart({ sheet }: { sheet: HostSheet }) {
  const platforms = useRead('platforms');
  const groups = useRead('hostGroups');
  const { figures, level, modules, numa } = sheet;
  const missing = level.missing.length
    ? `For v${(level.level ?? 0) + 1} it lacks ${level.missing.join(', ')}`
    : undefined;
  return (
    <Part title="Processors and memory">
      <Facts>
        <NumberField name="Sockets" field="sockets" required />
        <Fact name="Left for guests">
          <Figure figure={figures.memoryLeft} rounding="down" />
        </Fact>
        <NumberField name="Cores per socket" field="coresPerSocket" required />
        <Fact name="Of">
          <Figure figure={figures.memoryForGuests} rounding="down" /> ·{' '}
          <Figure figure={figures.memoryTaken} /> taken
        </Fact>
        <NumberField name="Threads per core" field="threadsPerCore" required />
        <Fact name="vCPU left">
          <Figure figure={figures.vcpuLeft} /> of <Figure figure={figures.vcpuForGuests} />
        </Fact>
        <MemoryField name="Memory installed" field="installedMiB" />
        <Fact name="Kept free">
          <Figure figure={figures.memoryReserve} rounding="up" /> ·{' '}
          <Figure figure={figures.vcpuReserve} />
        </Fact>
        <MemoryField name="System sees" field="visibleMiB" none="not looked at" />
        <Fact name="Limits first">{sheet.limits}</Fact>
        <Fact name="Modules">
          {modules.length ? (
            <span
              className="mono"
              title={modules
                .map((module) => `${module.slot} ${formatMemory(module.sizeMiB)} ${module.speed}`)
                .join('\n')}
            >
              {moduleWords(modules, sheet.host.memorySlots)}
            </span>
          ) : (
            <span className="text-faint">not recorded</span>
          )}
        </Fact>
        <Fact name="Largest guest">
          <Figure figure={figures.largestGuest} rounding="down" /> with 2 vCPU
        </Fact>
        {level.from === 'flags' ? (
          <Fact name="Level">
            <b className="mono">x86-64-v{level.level}</b> by its flags
          </Fact>
        ) : (
          <ChoiceField
            name="Level"
            field="statedLevel"
            choices={[
              { value: '', label: 'unknown: state it, or take the flags in' },
              ...['1', '2', '3', '4'].map((value) => ({
                value,
                label: `x86-64-v${value}, as stated`,
              })),
            ]}
          />
        )}
        <Fact name="NUMA">
          {numa || (
            <span className="text-faint">
              {sheet.nodes.length === 1 ? 'one node' : 'nodes not recorded'}
            </span>
          )}
        </Fact>
        <ChoiceField
          name="Virtualisation"
          field="virtualisation"
          choices={['unknown', 'absent', 'switched off', 'on']}
        />
        <ChoiceField
          name="Host group"
          field="groupId"
          choices={[
            { value: '', label: 'no group' },
            ...(groups.data ?? []).map((group) => ({ value: group.id, label: group.name })),
          ]}
        />
        <TextField name="Processor" field="processorModel" />
        <ChoiceField
          name="Platform"
          field="platformId"
          choices={(platforms.data ?? [sheet.platform]).map((found) => ({
            value: found.id,
            label: found.name,
          }))}
        />
        <NumberField name="Base clock" field="baseMhz" unit="MHz" />
        <ChoiceField name="Architecture" field="architecture" choices={ARCHITECTURES} />
      </Facts>
      {missing && <p className="text-[13px] text-faint">{missing}.</p>}
    </Part>
  );
}

/** @example "4 × 32 GiB in 4 of 8 slots" */
function moduleWords(modules: Row<'memoryModule'>[], slots: number | null): string {
  const sizes = new Map<number, number>();
  for (const { sizeMiB } of modules) sizes.set(sizeMiB, (sizes.get(sizeMiB) ?? 0) + 1);
  const words = [...sizes].map(([size, count]) => `${count} × ${formatMemory(size)}`).join(' + ');
  return slots ? `${words} in ${modules.length} of ${slots} slots` : words;
}
