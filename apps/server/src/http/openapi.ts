/** The OpenAPI document: paths from the controllers, schemas from the contract classes' own rules. */
import * as contract from '@insel/contract';
import type { INestApplication } from '@nestjs/common';
import { DocumentBuilder, SwaggerModule, type OpenAPIObject } from '@nestjs/swagger';
import { getMetadataStorage } from 'class-validator';

type Schema = Record<string, unknown>;

export function openApiDocument(app: INestApplication): OpenAPIObject {
  const settings = new DocumentBuilder()
    .setTitle('Insel')
    .setDescription(
      'Hosts, guests, addresses, clones and migrations. Writes to a record need If-Match; any write may carry Idempotency-Key.',
    )
    .setVersion('1')
    .addCookieAuth('insel_session')
    .addBearerAuth()
    .build();
  const document = SwaggerModule.createDocument(app, settings);
  const schemas = (document.components ??= {}).schemas ?? (document.components.schemas = {});
  for (const [name, type] of Object.entries(contract)) {
    if (typeof type === 'function' && /^[A-Z]/.test(name))
      schemas[name] = schemaOf(type as new () => object);
  }
  return document;
}

function schemaOf(type: new () => object): Schema {
  const properties: Record<string, Schema> = {};
  const optional = new Set<string>();
  for (const rule of getMetadataStorage().getTargetValidationMetadatas(type, '', false, false)) {
    const property = (properties[rule.propertyName] ??= {});
    if (rule.type === 'conditionalValidation') optional.add(rule.propertyName);
    Object.assign(property, FRAGMENTS[rule.name ?? '']?.(rule.constraints ?? []) ?? {});
  }
  const required = Object.keys(properties).filter((name) => !optional.has(name));
  return {
    type: 'object',
    additionalProperties: false,
    properties,
    ...(required.length ? { required } : {}),
  };
}

const FRAGMENTS: Record<string, (constraints: unknown[]) => Schema> = {
  isString: () => ({ type: 'string' }),
  isLength: ([minLength, maxLength]) => ({ type: 'string', minLength, maxLength }),
  maxLength: ([maxLength]) => ({ maxLength }),
  isInt: () => ({ type: 'integer' }),
  min: ([minimum]) => ({ minimum }),
  max: ([maximum]) => ({ maximum }),
  isBoolean: () => ({ type: 'boolean' }),
  isUuid: () => ({ format: 'uuid' }),
  isIn: ([choices]) => ({ enum: choices }),
  isIso8601: () => ({ type: 'string', format: 'date-time' }),
  isArray: () => ({ type: 'array', items: {} }),
  arrayMaxSize: ([maxItems]) => ({ maxItems }),
};
