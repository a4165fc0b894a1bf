/** A line of a build sheet, and the sheet. */
export interface SheetLine {
  text: string;
  /** Printed in letters that cannot be confused. Null: not decided yet, to be filled in by hand. */
  value?: string | null;
  caution?: string;
  /** Field of the host that decides it, where one does. */
  field?: DecidedBy;
}

/** What is decided of a host at its build sheet. */
export type DecidedBy =
  'machineModel' | 'controllerMode' | 'timeZone' | 'keyboard' | 'licenceKeyKept' | 'consolePort';

export interface SheetSection {
  title: string;
  lines: SheetLine[];
}

export interface BuildSheet {
  host: string;
  platform: string;
  sections: SheetSection[];
  /** Values that the record does not hold yet. */
  undecided: string[];
  /** The tests of its last section, by the names under which their results are recorded. */
  tests: { test: string; text: string }[];
}
