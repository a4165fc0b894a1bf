import { Flag, Name, OneOf, Optional, Text } from './rules.js';
import { Length } from 'class-validator';

export const ROLES = ['reader', 'planner', 'administrator'] as const;
const PASSWORD = { message: 'A password has 12 to 200 characters.' };

export class SignInBody {
  @Name() name!: string;
  @Text(200) password!: string;
}

export class SetUpBody {
  @Text(200) token!: string;
  @Name() name!: string;
  @Length(12, 200, PASSWORD) password!: string;
}

export class AddPersonBody {
  @Name() name!: string;
  @OneOf(ROLES) role!: (typeof ROLES)[number];
  @Length(12, 200, PASSWORD) password!: string;
}

export class EditPersonBody {
  @Optional() @OneOf(ROLES) role?: (typeof ROLES)[number];
  @Optional() @Flag() active?: boolean;
  @Optional() @Length(12, 200, PASSWORD) password?: string;
}

/** One's own password; what else is open ends with it. */
export class ChangePasswordBody {
  @Text(200) old!: string;
  @Length(12, 200, PASSWORD) password!: string;
  /** Tokens for scripts end as well. */
  @Optional() @Flag() tokens?: boolean;
}

export class AddTokenBody {
  @Name() label!: string;
}

/** Who is signed in, and whether anybody can be. */
export interface SessionState {
  account: Account | null;
  needsSetUp: boolean;
  /** The record is the demo, which an administrator can leave for one of their own. */
  demo: boolean;
}

export interface Account {
  id: string;
  name: string;
  role: (typeof ROLES)[number];
}

/** A token for scripts that is in force. */
export interface ApiToken {
  id: string;
  label: string;
  owner: string;
  mine: boolean;
  createdAt: string;
}

/** Something that was done to an account, a role or a token. */
export interface AccountEntry {
  at: string;
  actor: string;
  about: string;
  what: string;
}

export interface Person extends Account {
  active: boolean;
  createdAt: string;
}
