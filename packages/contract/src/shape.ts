/**
 * The shape of a body, before anything is made of it: own keys, lists and their lengths, parts. Costs one look at each
 * key, stops at the twentieth complaint, and lets nothing through that is deeper or longer than its class allows; what a
 * value may be is the validator's to say.
 */
import { getMetadataStorage } from 'class-validator';

export interface Complaint {
  field: string;
  sentence: string;
}

export type Contract = new () => object;

/** What is said of a body is read by people: more complaints than these help nobody. */
export const MOST_COMPLAINTS = 20;
/** Parts of one body in all: of guests from a table, or the ports of a large switch. */
const MOST_PARTS = 10_000;

/** Of which class a part is; with several, by its tag `as`. */
export interface PartClasses {
  of(value: object): Contract | undefined;
  /** All that it may be. */
  classes(): readonly Contract[];
  /** Tags to choose from. */
  tags?: readonly string[];
}

interface Slot {
  list: boolean;
  /** Longest list. */
  most: number;
  part?: PartClasses;
  /** An object that is checked by itself. */
  apart?: true;
}

const PARTS = new Map<object, Map<PropertyKey, PartClasses | 'apart'>>();

/** Remembers what the parts of a property are: called by the decorators that declare them. */
export function rememberPart(
  prototype: object,
  key: PropertyKey,
  part: PartClasses | 'apart',
): void {
  const held = PARTS.get(prototype) ?? new Map<PropertyKey, PartClasses | 'apart'>();
  PARTS.set(prototype, held.set(key, part));
}

function partOf(type: Contract, key: string): PartClasses | 'apart' | undefined {
  for (let at: object | null = type.prototype; at; at = Object.getPrototypeOf(at)) {
    const part = PARTS.get(at)?.get(key);
    if (part) return part;
  }
  return undefined;
}

const SLOTS = new Map<Contract, ReadonlyMap<string, Slot>>();

/** Properties of a contract class, with what each may hold. */
export function slotsOf(type: Contract): ReadonlyMap<string, Slot> {
  const held = SLOTS.get(type);
  if (held) return held;
  const slots = new Map<string, Slot>();
  for (const rule of getMetadataStorage().getTargetValidationMetadatas(type, '', false, false)) {
    const slot = slots.get(rule.propertyName) ?? { list: false, most: Infinity };
    if (rule.name === 'isArray') slot.list = true;
    if (rule.name === 'arrayMaxSize') slot.most = Number(rule.constraints[0]);
    const part = partOf(type, rule.propertyName);
    if (part === 'apart') slot.apart = true;
    else if (part) slot.part = part;
    slots.set(rule.propertyName, slot);
  }
  SLOTS.set(type, slots);
  return slots;
}

export function shapeComplaints(type: Contract, body: unknown): Complaint[] {
  const walk = new Walk();
  walk.object(type, body, '');
  return walk.complaints;
}

/** Whether a text can be kept: PostgreSQL takes no NUL, UTF-8 no half of a surrogate pair. */
const isKept = (text: string): boolean => !text.includes('\0') && text.isWellFormed();

class Walk {
  readonly complaints: Complaint[] = [];
  private parts = 0;

  private get enough(): boolean {
    return this.complaints.length >= MOST_COMPLAINTS;
  }

  private say(field: string, sentence: string): void {
    if (!this.enough) this.complaints.push({ field, sentence });
  }

  object(type: Contract, given: unknown, path: string): void {
    if (typeof given !== 'object' || given === null || Array.isArray(given)) {
      return this.say(path, 'An object is wanted here.');
    }
    const slots = slotsOf(type);
    const values = given as Record<string, unknown>;
    for (const key of Object.keys(values)) {
      if (this.enough) return;
      const value = values[key];
      const field = path ? `${path}.${key}` : key;
      const slot = slots.get(key);
      if (!slot) this.say(field.slice(0, 200), `There is no field "${key.slice(0, 60)}" here.`);
      else if (value !== null && value !== undefined) this.value(slot, value, field);
    }
  }

  /** Whether it was a text that cannot be kept. */
  private broken(value: unknown, field: string): boolean {
    if (typeof value !== 'string' || isKept(value)) return false;
    this.say(field, 'This text has a character that cannot be kept: NUL, or half of a pair.');
    return true;
  }

  private value(slot: Slot, value: unknown, field: string): void {
    if (this.broken(value, field)) return;
    if (Array.isArray(value)) return this.list(slot, value, field);
    if (slot.list) return this.say(field, 'Give a list.');
    if (slot.part) return this.part(slot.part, value, field);
    if (typeof value === 'object' && !slot.apart) this.say(field, 'A single value is wanted here.');
  }

  private part(classes: PartClasses, value: unknown, field: string): void {
    if (typeof value !== 'object' || value === null) {
      return this.say(field, 'An object is wanted here.');
    }
    const type = classes.of(value);
    if (type) return this.object(type, value, field);
    this.say(`${field}.as`, `Choose one of: ${classes.tags!.join(', ')}.`);
  }

  private list(slot: Slot, values: unknown[], field: string): void {
    if (!slot.list) {
      const wanted = slot.part || slot.apart ? 'An object' : 'A single value';
      return this.say(field, `${wanted} is wanted here, no list.`);
    }
    if (values.length > slot.most) return this.say(field, `At most ${slot.most}.`);
    if (slot.part) this.parts += values.length;
    if (this.parts > MOST_PARTS) {
      return this.say(field, `At most ${MOST_PARTS.toLocaleString('en-GB')} parts in one request.`);
    }
    for (const [i, value] of values.entries()) {
      if (this.enough) return;
      if (this.broken(value, `${field}.${i}`)) continue;
      if (slot.part) this.part(slot.part, value, `${field}.${i}`);
      else if (typeof value === 'object' && value !== null) {
        this.say(`${field}.${i}`, 'A single value is wanted here.');
      }
    }
  }
}
