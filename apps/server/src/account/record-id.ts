/** An id in a path: what is none names nothing that is there. */
import { Injectable, type PipeTransform } from '@nestjs/common';
import { isUUID } from 'class-validator';
import { notFound } from '../problem-exception.js';

@Injectable()
export class RecordId implements PipeTransform<string, string> {
  transform(value: string): string {
    if (!isUUID(value)) throw notFound('id');
    return value.toLowerCase();
  }
}
