/** The speed of a link, chosen among those that are sold. */
import { formatLinkSpeed } from '@insel/core';
import { Field } from './field.js';

const RATES = [100e6, 1e9, 2.5e9, 10e9, 25e9];

export const LinkField = ({
  value,
  onChange,
}: {
  value: number;
  onChange: (bitsPerSecond: number) => void;
}) => (
  <Field label="Slowest link between them">
    <select value={value} onChange={(event) => onChange(Number(event.target.value))}>
      {RATES.map((rate) => (
        <option key={rate} value={rate}>
          {formatLinkSpeed(rate)}
        </option>
      ))}
    </select>
  </Field>
);
