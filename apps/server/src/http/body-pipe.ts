import { Injectable, type ArgumentMetadata, type PipeTransform } from '@nestjs/common';
import { checkBody } from './check-body.js';

const PLAIN: unknown[] = [String, Number, Boolean, Array, Object];

/** Checks bodies and queries against their contract class; unknown fields are refused. */
@Injectable()
export class ContractPipe implements PipeTransform {
  async transform(value: unknown, { type, metatype }: ArgumentMetadata): Promise<unknown> {
    if ((type !== 'body' && type !== 'query') || !metatype || PLAIN.includes(metatype))
      return value;
    return checkBody(metatype as new () => object, value);
  }
}
