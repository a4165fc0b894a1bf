import { change, fieldsOf, ref, said } from '../record/index.js';

const { findingId, until } = fieldsOf('acceptance');

/** Lives with a finding until a day, with a written reason. */
export const acceptFinding = change({
  type: 'finding.accept',
  title: 'Accept the finding',
  reasonRequired: true,
  input: { findingId: said(findingId), until: said(until) },
});

/** Wants to hear of it again before its day. */
export const endAcceptance = change({
  type: 'finding.end-acceptance',
  title: 'Tell the finding again',
  alters: ['id'],
  input: { id: ref('acceptance') },
});
