import { formatBinary, formatMemory, type Growth } from '@insel/core';

/** What a place has or gives, in words of its own unit. */
export const amount = ({ unit }: Pick<Growth, 'unit'>, value: number): string =>
  unit === 'MiB'
    ? formatMemory(Math.round(value))
    : unit === 'bytes'
      ? formatBinary(value)
      : `${Math.round(value).toLocaleString('en-GB')} ${unit}`;
