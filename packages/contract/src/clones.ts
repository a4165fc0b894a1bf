import { ChangeExtras } from './extras.js';
import { Flag, Id, Ids, Name, OneOf, Optional, Parts, Text, Whole } from './rules.js';

export class CloneWishPart {
  @Optional() @Name(63) name?: string;
  @Optional() @Id() hostId?: string;
  @Optional() @Id() poolId?: string;
  @Optional() @Text(50) ip?: string;
}

export class MakeClonesBody extends ChangeExtras {
  @OneOf(['full', 'dependent']) copy!: 'full' | 'dependent';
  /** "#" stands for the number, several for leading zeros. */
  @Name(63) pattern!: string;
  @Whole(0, 99999) start!: number;
  @OneOf(['run', 'single']) taking!: 'run' | 'single';
  @Parts(() => CloneWishPart, 200) clones!: CloneWishPart[];
}

export class TickItemsBody extends ChangeExtras {
  @Ids(100) itemIds!: string[];
  @Flag() done!: boolean;
  @Optional() @Text() remark?: string;
}
