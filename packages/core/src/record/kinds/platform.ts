import { flag, initially, integer, name } from '../field.js';
import { described } from './described.js';

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
    ...described,
  },
};
