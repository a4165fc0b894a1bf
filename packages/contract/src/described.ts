import { ChangeExtras } from './extras.js';
import { Optional, Text, Texts } from './rules.js';

/** Described records share these. */
export class Described extends ChangeExtras {
  @Optional() @Text(20_000) notes?: string;
  @Optional() @Texts() labels?: string[];
  @Optional() @Text(100) owner?: string;
}
