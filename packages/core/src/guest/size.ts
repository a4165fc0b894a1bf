/**
 * How large a guest should be: its role's usual size, grown by the load it is to carry, now and in years to come. Own
 * arithmetic on values of the profile, which are common practice without a source.
 */
import { own, practice, type WorkingLine, type Sure } from '../figure/index.js';
import { GIB, formatBinary, formatMemory, type Bytes, type MiB } from '../quantity/index.js';
import type { Row } from '../record/index.js';

export interface Workload {
  /** In the profile's unit; null where its size does not depend on one. */
  load: number | null;
  growthPercent: number;
  years: number;
}

export interface SuggestedSize {
  /** Load at the end of those years, rounded up to whole units. */
  loadThen: number | null;
  vcpu: Sure;
  memory: Sure;
  system: Sure;
  /** Null where the role keeps nothing beside its system. */
  data: Sure | null;
  /** Why, in one sentence. */
  sentence: string;
}

/** Load after so many years of growing by so many per cent each, rounded up. @example grownLoad({ load: 100, growthPercent: 10, years: 3 }) // 134 */
export function grownLoad({ load, growthPercent, years }: Workload): number | null {
  return load === null ? null : Math.ceil(load * (1 + growthPercent / 100) ** years - 1e-9);
}

/** vCPU in whole ones; above eight in twos, which split evenly over sockets. */
export const roundVcpu = (vcpu: number): number =>
  vcpu > 8 ? Math.ceil(vcpu / 2 - 1e-9) * 2 : Math.ceil(vcpu - 1e-9);

const memoryStep = (mib: MiB): MiB =>
  mib <= 1024 ? 128 : mib <= 4096 ? 512 : mib <= 16_384 ? 1024 : mib <= 65_536 ? 4096 : 8192;
export const roundMemory = (mib: MiB): MiB => Math.ceil(mib / memoryStep(mib)) * memoryStep(mib);

const storageStep = (bytes: Bytes): Bytes =>
  (bytes <= 64 * GIB ? 4 : bytes <= 256 * GIB ? 16 : bytes <= 1024 * GIB ? 64 : 256) * GIB;
export const roundStorage = (bytes: Bytes): Bytes =>
  Math.ceil(bytes / storageStep(bytes)) * storageStep(bytes);

export function suggestSize(profile: Row<'profile'>, load: Workload): SuggestedSize {
  const loadThen = profile.loadUnit ? grownLoad(load) : null;
  const above = loadThen === null ? 0 : Math.max(0, loadThen - profile.usualLoad);
  const steps = above / profile.loadStep;
  const serves =
    profile.loadUnit && profile.usualLoad > 0
      ? `Usual, serves ${profile.usualLoad.toLocaleString('en-GB')} ${profile.loadUnit}`
      : 'Usual for its role';
  const figure = (
    name: string,
    title: string,
    unit: Sure['unit'],
    usual: number,
    perStep: number,
    minimum: number,
    round: (value: number) => number,
    rounding: string,
  ): Sure => {
    const grown = usual + steps * perStep;
    const rounded = round(Math.max(grown, minimum));
    const lines: WorkingLine[] = [
      {
        label: serves,
        value: usual,
        unit,
        operator: '·',
        from: { kind: 'profile', id: profile.id },
      },
    ];
    if (above > 0 && perStep > 0)
      lines.push({
        label: `${above.toLocaleString('en-GB')} ${profile.loadUnit} above that, for each ${profile.loadStep.toLocaleString('en-GB')} of them ${say(perStep, unit)}`,
        value: steps * perStep,
        unit,
        operator: '+',
      });
    if (minimum > grown)
      lines.push({ label: 'At least, by the profile', value: minimum, unit, operator: '·' });
    lines.push({ label: `Rounded up to ${rounding}`, value: rounded, unit, operator: '=' });
    return {
      name,
      title,
      value: rounded,
      unit,
      lines,
      sources: [practice(`Values of the profile ${profile.name}`), own('Rounding to steps')],
      policy: `Values of the profile ${profile.name}`,
    };
  };
  const vcpu = figure(
    'suggested-vcpu',
    'Suggested vCPU',
    'vCPU',
    profile.usualVcpu,
    profile.stepMilliVcpu / 1000,
    profile.minimumVcpu,
    roundVcpu,
    'whole ones, above eight to twos',
  );
  const memory = figure(
    'suggested-memory',
    'Suggested memory',
    'MiB',
    profile.usualMemoryMiB,
    profile.stepMemoryMiB,
    profile.minimumMemoryMiB,
    roundMemory,
    'steps of 128 MiB to 8 GiB, by size',
  );
  const system = figure(
    'suggested-system',
    'Suggested system volume',
    'bytes',
    profile.usualBytes,
    0,
    profile.minimumBytes,
    roundStorage,
    'steps of 4 to 256 GiB, by size',
  );
  const keeps = profile.usualDataBytes > 0 || (profile.stepDataBytes > 0 && above > 0);
  const data = keeps
    ? figure(
        'suggested-data',
        'Suggested data volume',
        'bytes',
        profile.usualDataBytes,
        profile.stepDataBytes,
        0,
        roundStorage,
        'steps of 4 to 256 GiB, by size',
      )
    : null;
  return {
    loadThen,
    vcpu,
    memory,
    system,
    data,
    sentence: sentenceOf(profile, load, loadThen, { vcpu, memory, system, data }),
  };
}

function say(value: number, unit: string): string {
  if (unit === 'MiB') return formatMemory(value);
  return unit === 'bytes' ? formatBinary(value) : `${value} ${unit}`;
}

function sentenceOf(
  profile: Row<'profile'>,
  load: Workload,
  then: number | null,
  { vcpu, memory, system, data }: Pick<SuggestedSize, 'vcpu' | 'memory' | 'system' | 'data'>,
): string {
  const disk = [
    system.value > 0 ? `${formatBinary(system.value)} for itself` : 'no disk for itself',
    data ? `${formatBinary(data.value)} for what it keeps` : '',
  ]
    .filter(Boolean)
    .join(' and ');
  const years = load.years === 1 ? 'a year' : `${load.years} years`;
  const grows =
    then !== null && load.load !== null && then !== load.load
      ? `, which will be ${then.toLocaleString('en-GB')} in ${years} at ${load.growthPercent} % a year`
      : '';
  const carrying =
    then === null || load.load === null
      ? ''
      : ` for ${load.load.toLocaleString('en-GB')} ${profile.loadUnit}${grows}`;
  return `A ${profile.name}${carrying} gets ${vcpu.value} vCPU, ${formatMemory(memory.value)} of memory, ${disk}.`;
}
