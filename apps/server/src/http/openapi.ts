/**
 * The OpenAPI document: a path for every read and every change, schemas from the rules that check what is sent; the rest
 * from the controllers.
 */
import * as contract from '@insel/contract';
import { DESCRIPTIONS, type ChangeType, type Description } from '@insel/core';
import type { INestApplication } from '@nestjs/common';
import { DocumentBuilder, SwaggerModule, type OpenAPIObject } from '@nestjs/swagger';
import { getMetadataStorage } from 'class-validator';

type Schema = Record<string, unknown>;
type Schemas = Record<string, Schema>;

export function openApiDocument(app: INestApplication): OpenAPIObject {
  const settings = new DocumentBuilder()
    .setTitle('Insel')
    .setDescription(
      'Hosts, guests, addresses, clones and migrations. Every change is posted to its path; it names under "expects" which revisions were read of the rows it alters, and may carry an Idempotency-Key.',
    )
    .setVersion('1')
    .addCookieAuth('insel_session')
    .addBearerAuth()
    .build();
  const document = SwaggerModule.createDocument(app, settings);
  const components = (document.components ??= {});
  const schemas = (components.schemas ??= {}) as Schemas;
  for (const [name, type] of Object.entries(contract)) {
    if (typeof type === 'function' && /^[A-Z]/.test(name))
      put(schemas, name, type as contract.Contract);
  }
  for (const description of Object.values(DESCRIPTIONS) as Description[]) {
    const { type } = description;
    put(schemas, type, contract.inputClass(type as ChangeType));
    document.paths[`/api/changes/${type}`] = pathOf(description, '') as never;
    document.paths[`/api/changes/${type}/preview`] = pathOf(description, '/preview') as never;
  }
  for (const name of Object.keys(contract.READ_PATHS) as contract.ReadName[]) {
    const { method, path, operation } = readOf(name, schemas);
    document.paths[path] = { [method]: operation };
  }
  return document;
}

function readOf(name: contract.ReadName, schemas: Schemas) {
  const path = contract.READ_PATHS[name].replace('POST ', '');
  const posted = path !== contract.READ_PATHS[name];
  const type = (contract.READ_QUERIES as Partial<Record<string, contract.Contract>>)[name];
  const fields = Object.entries((type && schemas[type.name]?.properties) ?? {});
  const required = (type && (schemas[type.name]?.required as string[] | undefined)) ?? [];
  const parameters = [
    ...[...path.matchAll(/:(\w+)/g)].map(([, field]) => ({
      name: field,
      in: 'path',
      required: true,
      schema: { type: 'string' },
    })),
    ...(posted ? [] : fields).map(([field, schema]) => ({
      name: field,
      in: 'query',
      required: required.includes(field),
      schema: schema as Schema,
    })),
  ];
  const body = { $ref: `#/components/schemas/${type?.name}` };
  return {
    method: posted ? 'post' : 'get',
    path: `/api/${path.replace(/:(\w+)/g, '{$1}')}`,
    operation: {
      operationId: name,
      tags: ['reads'],
      parameters,
      ...(posted ? { requestBody: { content: { 'application/json': { schema: body } } } } : {}),
      responses: { 200: { description: 'What is recorded.' } },
    } as never,
  };
}

function pathOf({ type, title, role, alters }: Description, what: '' | '/preview'): Schema {
  const body = { $ref: '#/components/schemas/ChangeBody' };
  const input = { $ref: `#/components/schemas/${type}` };
  return {
    post: {
      operationId: `${type}${what}`,
      tags: ['changes'],
      summary: what ? `What would follow: ${title}` : title,
      description: what
        ? 'Alters nothing; for every role.'
        : [
            `For the role of ${role}, and above.`,
            alters.length ? `Expects the revisions of: ${alters.join(', ')}.` : '',
          ]
            .filter(Boolean)
            .join(' '),
      requestBody: {
        required: true,
        content: {
          'application/json': {
            schema: { allOf: [body, { type: 'object', properties: { input } }] },
          },
        },
      },
      responses: { [what ? 200 : 201]: { description: 'Done.' } },
    },
  };
}

/** Puts the schema of a class beside the others, and those of its parts. */
function put(schemas: Schemas, name: string, type: contract.Contract): void {
  if (schemas[name]?.properties) return;
  const properties: Record<string, Schema> = {};
  const optional = new Set<string>();
  for (const rule of getMetadataStorage().getTargetValidationMetadatas(type, '', false, false)) {
    const property = (properties[rule.propertyName] ??= {});
    if (rule.type === 'conditionalValidation') optional.add(rule.propertyName);
    Object.assign(property, FRAGMENTS[rule.name ?? '']?.(rule.constraints ?? []) ?? {});
  }
  const required = Object.keys(properties).filter((field) => !optional.has(field));
  schemas[name] = {
    type: 'object',
    additionalProperties: false,
    properties,
    ...(required.length ? { required } : {}),
  };
  for (const [field, { list, apart, part }] of contract.slotsOf(type)) {
    if (apart) properties[field] = { type: 'object' };
    if (!part) continue;
    const refs = part.classes().map((one) => {
      put(schemas, one.name, one);
      return { $ref: `#/components/schemas/${one.name}` };
    });
    const of = refs.length === 1 ? refs[0]! : { oneOf: refs };
    properties[field] = list ? { ...properties[field], type: 'array', items: of } : of;
  }
}

const FRAGMENTS: Record<string, (constraints: unknown[]) => Schema> = {
  isString: () => ({ type: 'string' }),
  isLength: ([minLength, maxLength]) => ({ type: 'string', minLength, maxLength }),
  maxLength: ([maxLength]) => ({ maxLength }),
  matches: () => ({ type: 'string' }),
  isDay: () => ({ type: 'string', format: 'date' }),
  isInt: () => ({ type: 'integer' }),
  min: ([minimum]) => ({ minimum }),
  max: ([maximum]) => ({ maximum }),
  isBoolean: () => ({ type: 'boolean' }),
  isUuid: () => ({ type: 'string', format: 'uuid' }),
  isIn: ([choices]) => ({ enum: choices }),
  isArray: () => ({ type: 'array', items: {} }),
  arrayMaxSize: ([maxItems]) => ({ maxItems }),
};
