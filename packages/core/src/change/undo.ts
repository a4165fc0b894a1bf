import { change, integer } from '../record/index.js';

/** Takes back the change of one log entry by its inverse patches. */
export const undo = change({
  type: 'undo',
  title: 'Take it back',
  carried: 'only afterwards',
  undoable: false,
  needs: 'an entry of the log',
  input: { revision: integer(1) },
});
