import { ChangeExtras } from './extras.js';
import { Clearable, Flag, Id, Optional, Text, Whole } from './rules.js';

export class PlanMigrationBody extends ChangeExtras {
  @Id() guestId!: string;
  @Id() targetHostId!: string;
  /** Null: the volumes stay in their pools. */
  @Clearable() @Id() targetPoolId!: string | null;
  @Flag() running!: boolean;
  /** Bits per second of the slowest link between the hosts. */
  @Whole(1) linkBitsPerSecond!: number;
}

export class StepMigrationBody extends ChangeExtras {
  /** With switch: seconds the copy took, if measured. */
  @Optional() @Whole(1) copySeconds?: number;
  /** With accept: the day until which the source is kept. */
  @Optional() @Text(10) keepUntil?: string;
}
