import { networkInterfaces } from 'node:os';
import { canonical } from '@insel/core';

/** Addresses of the machine that Insel runs on, but those that every machine has. */
export const ownAddresses = (): ReadonlySet<string> =>
  new Set(
    Object.values(networkInterfaces())
      .flatMap((held) => held ?? [])
      .filter(({ internal }) => !internal)
      .flatMap(({ address }) => {
        const read = canonical(address);
        return read.ok ? [read.value] : [];
      }),
  );
