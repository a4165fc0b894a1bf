import { checked } from '@insel/contract';
import { Injectable, type ArgumentMetadata, type PipeTransform } from '@nestjs/common';
import { ProblemException } from './problem.js';

const PLAIN: unknown[] = [String, Number, Boolean, Array, Object];

/** Checks bodies and queries against their contract class; unknown fields are refused. */
@Injectable()
export class ContractPipe implements PipeTransform {
  transform(value: unknown, { type, metatype }: ArgumentMetadata): unknown {
    if ((type !== 'body' && type !== 'query') || !metatype || PLAIN.includes(metatype))
      return value;
    const result = checked(metatype as new () => object, value);
    if (result.ok) return result.value;
    const [first] = result.complaints;
    throw new ProblemException(422, {
      code: 'bad-field',
      sentence: first!.sentence,
      field: first!.field,
      errors: result.complaints,
    });
  }
}
