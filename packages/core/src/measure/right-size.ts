/**
 * What a guest should have, from what it was measured to use. Own rule, no source: the 95th percentile with headroom,
 * rounded up to steps, never below its profile's minimum; smaller only if that saves three tenths.
 */
import { own, standard, type Figure, type Unit } from '../figure/index.js';

/** Samples that must exist before anything is advised: 14 days at one in five minutes. */
export const ENOUGH_SAMPLES = 4032;
const ENOUGH_DAYS = 14;

export interface Use {
  /** 95th percentile, type 7, and the largest sample, in the unit of `now`. */
  p95: number;
  most: number;
  samples: number;
  days: number;
}

export interface RightSize {
  advice: 'shrink' | 'leave' | 'grow' | 'too few samples';
  to: number;
  figure: Figure;
  sentence: string;
}

interface Sizing {
  title: string;
  unit: Unit;
  now: number;
  use: Use;
  headroomPercent: number;
  step: number;
  minimum: number;
}

const SHRINK_BELOW = 0.7;

export function rightSize({
  title,
  unit,
  now,
  use,
  headroomPercent,
  step,
  minimum,
}: Sizing): RightSize {
  const wanted = (use.p95 * (100 + headroomPercent)) / 100;
  const stepped = Math.ceil(wanted / step - 1e-9) * step;
  const to = Math.max(stepped, minimum);
  const enough = use.samples >= ENOUGH_SAMPLES && use.days >= ENOUGH_DAYS;
  const advice = !enough
    ? 'too few samples'
    : to > now
      ? 'grow'
      : to <= SHRINK_BELOW * now
        ? 'shrink'
        : 'leave';
  const figure: Figure = {
    name: `right-size-${unit}`,
    title,
    value: to,
    unit,
    lines: [
      {
        label: `95th percentile of ${use.samples.toLocaleString('en-GB')} samples over ${Math.floor(use.days)} days (type 7)`,
        value: round(use.p95),
        unit,
        operator: '·',
      },
      { label: 'With headroom', value: 100 + headroomPercent, unit: 'percent', operator: '×' },
      { label: 'That is', value: round(wanted), unit, operator: '=' },
      {
        label: `Rounded up to steps of ${step}${minimum > stepped ? ', and not below the minimum of its profile' : ''}`,
        value: to,
        unit,
        operator: '=',
      },
    ],
    sources: [
      own('Right size: 95th percentile with headroom; smaller only if that saves three tenths'),
      standard('Percentile: Hyndman & Fan, The American Statistician 50(4), 1996'),
    ],
  };
  return { advice, to, figure, sentence: sentenceOf(advice, use, to, now) };
}

function sentenceOf(advice: RightSize['advice'], use: Use, to: number, now: number): string {
  switch (advice) {
    case 'too few samples':
      return `Too few samples for advice: ${use.samples.toLocaleString('en-GB')} over ${Math.floor(use.days)} days, at least ${ENOUGH_SAMPLES.toLocaleString('en-GB')} over ${ENOUGH_DAYS} are wanted.`;
    case 'grow':
      return 'It needs more than it has.';
    case 'shrink':
      return use.most > to
        ? 'It could do with less; its highest peaks would then have to wait.'
        : 'It could do with less; even its highest peak fits.';
    case 'leave':
      return to === now
        ? 'It has what it needs.'
        : 'It could do with a little less: not worth a restart.';
  }
}

const round = (value: number): number => Math.round(value * 1000) / 1000;
