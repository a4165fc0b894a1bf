import { refuse, type Refusal, type Row } from '../record/index.js';

/** Only a device that is a computer has a hardware sheet, and moves. */
export const onlyComputers = ({ kind, name }: Row<'device'>, field: string): Refusal | undefined =>
  kind === 'computer'
    ? undefined
    : refuse({
        code: 'not-a-computer',
        field,
        sentence: `${name} is recorded as ${kind}: only a computer has a hardware sheet, and moves.`,
        remedy: 'Record its kind as computer first.',
      });
