/** One of a few records, by name. */
import type { Named } from '@insel/contract';
import type { ComponentProps } from 'react';

/** @param none what stands for no record; left out where there has to be one */
export function NamedSelect({
  rows,
  none,
  ...select
}: ComponentProps<'select'> & { rows: readonly Named[] | undefined; none?: string }) {
  return (
    <select {...select}>
      {none !== undefined && <option value="">{none}</option>}
      {rows?.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </select>
  );
}
