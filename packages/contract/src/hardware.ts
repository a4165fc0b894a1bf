/** The parts of a host, verifications of it, facts about it. */
import { ARRAY_LEVELS, DISK_CLASSES, KINDS, type Row } from '@insel/core';
import { ChangeExtras } from './extras.js';
import {
  Clearable,
  Flag,
  Id,
  Name,
  OneOf,
  Optional,
  Part,
  Parts,
  Text,
  Texts,
  Time,
  Whole,
} from './rules.js';

const choicesOf = (kind: 'array' | 'disk' | 'port', field: string): readonly string[] =>
  KINDS[kind].fields[field]!.choices!;

export class MemoryModuleInput {
  @Name() slot!: string;
  @Whole(1) sizeMiB!: number;
  @Optional() @Text() speed?: string;
}

export class NumaNodeInput {
  @Whole(0, 255) node!: number;
  @Whole(1, 1024) cores!: number;
  @Whole(1) memoryMiB!: number;
}

export class ArrayInput {
  @Name() name!: string;
  @OneOf(ARRAY_LEVELS) level!: Row<'array'>['level'];
  @Optional() @Whole(1, 32) groups?: number;
  @OneOf(choicesOf('array', 'purpose')) purpose!: Row<'array'>['purpose'];
}

export class DiskInput {
  @Name() bay!: string;
  @Optional() @Text() model?: string;
  @Optional() @Text() serial?: string;
  @Whole(0) bytes!: number;
  @OneOf(DISK_CLASSES) class!: Row<'disk'>['class'];
  /** Name of an array of the same host. */
  @Clearable() @Text(100) array?: string | null;
  @Optional() @Flag() spare?: boolean;
  @Optional() @OneOf(choicesOf('disk', 'purpose')) purpose?: Row<'disk'>['purpose'];
}

export class PortInput {
  @Name() name!: string;
  @Optional() @OneOf(choicesOf('port', 'connector')) connector?: Row<'port'>['connector'];
  @Clearable() @Whole(1) bitsPerSecond?: number | null;
  @Optional() @Flag() wired?: boolean;
  @Clearable() @Text(50) mac?: string | null;
  @Optional() @Text() card?: string;
  @Optional() @Flag() management?: boolean;
  @Optional() @Text() pluggedInto?: string;
}

/** Lists that are given replace those recorded; the others stay. */
export class HardwareBody {
  @Optional() @Parts(() => MemoryModuleInput, 1024) modules?: MemoryModuleInput[];
  @Optional() @Parts(() => NumaNodeInput, 256) nodes?: NumaNodeInput[];
  @Optional() @Parts(() => ArrayInput, 64) arrays?: ArrayInput[];
  @Optional() @Parts(() => DiskInput, 1024) disks?: DiskInput[];
  @Optional() @Parts(() => PortInput, 256) ports?: PortInput[];
}

export class SetHardwareBody extends ChangeExtras {
  @Part(() => HardwareBody) hardware!: HardwareBody;
}

export class TestResultInput {
  @Name() test!: string;
  @Flag() passed!: boolean;
  @Optional() @Text(500) remark?: string;
}

export class VerifyHostBody extends ChangeExtras {
  @Optional() @Time() at?: string;
  @Parts(() => TestResultInput) tests!: TestResultInput[];
  @Optional() @Text(2000) remark?: string;
}

export class HostBuiltBody extends ChangeExtras {
  @Time() startedAt!: string;
  @Time() endedAt!: string;
  @Optional() @Text(4000) differences?: string;
  @Parts(() => TestResultInput) tests!: TestResultInput[];
}

/** What the facts script printed, or a Redfish system. */
export class ReadFactsBody {
  @Text(2_000_000) text!: string;
  @Clearable() @Id() hostId?: string | null;
}

export class TakeFactsBody extends ChangeExtras {
  @Text(2_000_000) text!: string;
  /** Fields and lists to take. */
  @Texts(40) chosen!: string[];
}
