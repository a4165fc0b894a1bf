/** Questions of who reaches whom. */
import { Ids, OneOf, Optional, Text } from './rules.js';
import type { MachineInfo, MatrixCell, ReachAnswer } from '@insel/core';

export class ReachQuery {
  /** Id of a host, guest or device; or "outside". */
  @Text(80) from!: string;
  /** Id of a machine, or "outside"; left out where only an address is asked for. */
  @Optional() @Text(80) to?: string;
  @Optional() @Text(50) ip?: string;
  @Optional() @OneOf(['4', '6']) family?: '4' | '6';
  /** A port with its protocol, as "tcp 443"; left out: an echo. */
  @Optional() @Text(20) service?: string;
}

export class MatrixBody {
  @Ids(2000) ids!: string[];
}

/** An answer, or why there is none. */
export type ReachView = ReachAnswer | { sentence: string };

export interface MatrixView {
  machines: (MachineInfo & { ip: string })[];
  /** Number of the class of each machine; cells are between classes. */
  classOf: number[];
  cells: MatrixCell[][];
  simulated: number;
  milliseconds: number;
}
