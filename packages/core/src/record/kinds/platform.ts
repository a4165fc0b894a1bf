import { among, choice, flag, initially, integer, name, optional, text, texts } from '../field.js';
import { described } from './described.js';
import { ADAPTER_MODELS, DISK_BUSES } from './guest.js';

export const ARCHITECTURES = ['x86-64', 'aarch64', 'other'] as const;

/** A hypervisor family and release, known by its properties only. Memory in MiB, shares in per cent. */
export const platform = {
  fields: {
    name: name(),
    bareMetal: flag(true),
    keepsMiB: initially(integer(), 2048),
    keepsPercent: initially(integer(0, 100), 5),
    overheadMiB: initially(integer(), 128),
    overheadPerVcpuMiB: initially(integer(), 8),
    overheadPercent: initially(integer(0, 100), 1),
    videoMiB: initially(integer(), 16),
    architecture: initially(choice(...ARCHITECTURES), 'x86-64'),
    /** Lowest x86-64 level (psABI) its kernel starts on. */
    minimumLevel: initially(integer(1, 4), 1),
    needsVirtualisation: flag(true),
    needsWiredPort: flag(true),
    minimumMemoryMiB: initially(integer(), 4096),
    /** Smallest disk it installs on, in bytes. */
    footprintBytes: initially(integer(), 32_000_000_000),
    secureBoot: initially(choice('either', 'must be off', 'must be on'), 'either'),
    /** True: guests behind NAT share one segment with the host; false: each is alone. */
    natShared: flag(true),
    consolePort: optional(integer(1, 65_535)),
    runningMigration: flag(true),
    thinVolumes: flag(true),
    dependentClones: flag(true),
    adapterChangeNeedsRestart: flag(),
    /** Buses and adapter models that it offers its guests, best first. */
    diskBuses: among(initially(texts(), ['paravirtual', 'SATA', 'IDE']), DISK_BUSES),
    adapterModels: among(initially(texts(), ['paravirtual', 'emulated']), ADAPTER_MODELS),
    uefiGuests: flag(true),
    legacyGuests: flag(true),
    acceleratedGraphics: flag(),
    /** How Linux guests come to name their interfaces here: {n} is the number of the adapter, counted from the first. */
    interfacePattern: initially(text(40), 'enp{n}s0'),
    interfaceFirst: initially(integer(0, 255), 1),
    ...described,
  },
};
