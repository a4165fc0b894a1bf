/**
 * Entities of the mapper. Those of the record follow from the description of the kinds; accounts are written out, since
 * they live outside the record.
 */
import { KIND_NAMES, KINDS, type FieldType, type InputType, type Kind } from '@insel/core';
import { EntitySchema } from '@mikro-orm/core';
import { snake } from '../record/rows.js';

const COLUMN: Record<Exclude<FieldType, InputType>, string> = {
  text: 'text',
  choice: 'text',
  integer: 'bigint',
  flag: 'boolean',
  time: 'timestamptz',
  date: 'date',
  address: 'inet',
  prefix: 'cidr',
  mac: 'macaddr',
  ref: 'uuid',
  texts: 'text[]',
  addresses: 'inet[]',
};

export const RECORD_ENTITIES = KIND_NAMES.map(
  (kind: Kind) =>
    new EntitySchema<Record<string, unknown>>({
      name: kind,
      tableName: snake(kind),
      properties: Object.fromEntries([
        ['id', { type: 'uuid', primary: true }],
        ['revision', { type: 'bigint', columnType: 'bigint' }],
        ...Object.entries(KINDS[kind].fields).map(([name, field]) => [
          name,
          {
            type: 'unknown',
            columnType: COLUMN[field.type as keyof typeof COLUMN],
            fieldName: snake(name),
            nullable: field.nullable,
          },
        ]),
      ]) as never,
    }),
);

export interface PersonRow {
  id: string;
  name: string;
  role: 'reader' | 'planner' | 'administrator';
  passwordHash: string;
  active: boolean;
  createdAt: Date;
}

export const PersonEntity = new EntitySchema<PersonRow>({
  name: 'Person',
  tableName: 'person',
  properties: {
    id: { type: 'uuid', primary: true },
    name: { type: 'string', columnType: 'citext' },
    role: { type: 'string', columnType: 'text' },
    passwordHash: { type: 'string', columnType: 'text', fieldName: 'password_hash' },
    active: { type: 'boolean' },
    createdAt: { type: 'datetime', fieldName: 'created_at' },
  },
});

export interface SessionRow {
  tokenHash: string;
  personId: string;
  createdAt: Date;
  expiresAt: Date;
}

export const SessionEntity = new EntitySchema<SessionRow>({
  name: 'Session',
  tableName: 'session',
  properties: {
    tokenHash: { type: 'string', columnType: 'text', fieldName: 'token_hash', primary: true },
    personId: { type: 'uuid', fieldName: 'person_id' },
    createdAt: { type: 'datetime', fieldName: 'created_at' },
    expiresAt: { type: 'datetime', fieldName: 'expires_at' },
  },
});

export interface ApiTokenRow {
  id: string;
  tokenHash: string;
  personId: string;
  label: string;
  createdAt: Date;
  revokedAt: Date | null;
}

export const ApiTokenEntity = new EntitySchema<ApiTokenRow>({
  name: 'ApiToken',
  tableName: 'api_token',
  properties: {
    id: { type: 'uuid', primary: true },
    tokenHash: { type: 'string', columnType: 'text', fieldName: 'token_hash' },
    personId: { type: 'uuid', fieldName: 'person_id' },
    label: { type: 'string', columnType: 'text' },
    createdAt: { type: 'datetime', fieldName: 'created_at' },
    revokedAt: { type: 'datetime', fieldName: 'revoked_at', nullable: true },
  },
});
