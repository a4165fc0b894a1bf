/** The steps of a plan to carry along: one self-contained page, for the network may be what is being worked on. */
import type { PlanSheet, PlanStepView } from '@insel/contract';
import { minute, type Page, type PageLine } from './sheet-page.js';

export function planRunbookPage({ plan, steps, appearing }: PlanSheet): Page {
  return {
    title: `Plan ${plan.name}`,
    subtitle: `${plan.state}, ${steps.filter(({ doneAt }) => doneAt !== null).length} of ${steps.length} steps done`,
    sections: [
      {
        title: 'What for',
        lines: [
          { text: 'Purpose', value: plan.purpose || null },
          { text: 'Drawn for', value: plan.owner || null },
        ],
      },
      { title: 'Steps, in this order', lines: steps.map(lineOf) },
      ...(appearing.length > 0
        ? [
            {
              title: 'What has to be watched then',
              lines: appearing.map(({ evidence, remedy }) => ({ text: evidence, value: remedy })),
            },
          ]
        : []),
      {
        title: 'What was different',
        lines: [1, 2, 3, 4].map((n) => ({ text: `${n}`, value: null })),
      },
    ],
  };
}

function lineOf(step: PlanStepView, i: number): PageLine {
  const { outcome, day, person, remark, doneAt } = step;
  const when = [day && `on ${day}`, person && `by ${person}`, step.byHand && 'by hand']
    .filter(Boolean)
    .join(', ');
  return {
    text: `${i + 1}. ${outcome?.title || step.change}`,
    value: [when, outcome?.difference, remark].filter(Boolean).join('; ') || undefined,
    caution: outcome?.refusal
      ? `it can no longer be done: ${outcome.refusal.sentence}`
      : outcome?.objections.join(' ') || undefined,
    done: doneAt ? [minute(doneAt), step.doneBy].filter(Boolean).join(', ') : undefined,
  };
}
