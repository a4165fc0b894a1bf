import { AGE_DAYS, AGE_SOURCE, currentVersion, versionName } from '../template/index.js';
import { practice } from '../figure/index.js';
import { daysSince } from '../record/index.js';
import { ruleAt, type RuleFinding } from './rule-at.js';

/** The current version of a template has grown old, or hardly any activation is left to reset. */
export const templateFaults = ruleAt(
  'template',
  'template-old',
  (fleet, template, now): RuleFinding[] => {
    const version = currentVersion(fleet, template.id);
    if (!version?.sealedAt) return [];
    const age = daysSince(fleet, version.sealedAt, now);
    if (age < AGE_DAYS.note) return [];
    return [
      {
        severity: age >= AGE_DAYS.caution ? 'caution' : 'note',
        evidence: `${versionName(fleet, version)} was sealed ${age} days ago, and is what clones of ${template.name} are made from.`,
        consequence:
          'Each clone begins with as many days of updates missing, and is open until it has read them.',
        remedy: 'Begin a new version: copy, update, generalise, seal. Then remake its clones.',
        source: AGE_SOURCE,
      },
    ];
  },
);

/** Starting and resetting again and again uses activations up: common practice knows of three. */
const RESETS = 3;
export const templateResets = ruleAt(
  'template',
  'template-resets',
  (fleet, template): RuleFinding[] => {
    const version = currentVersion(fleet, template.id);
    if (!version || version.resets < RESETS) return [];
    return [
      {
        severity: 'note',
        evidence: `The activation was reset ${version.resets} times on the way to ${versionName(fleet, version)}.`,
        consequence:
          'Some systems allow only a few: then the next version cannot be activated any more.',
        remedy: 'Build the next version anew from its medium.',
        source: practice(`Activations are reset at most ${RESETS} times`),
      },
    ];
  },
);
