import { Inject, Injectable } from '@nestjs/common';
import { CONFIG, type Config } from './config.js';

/** The one place where time enters. */
@Injectable()
export class Clock {
  constructor(@Inject(CONFIG) private readonly config: Config) {}

  /** UTC, ISO 8601 with milliseconds. */
  now(): string {
    return this.config.fixedNow ?? new Date().toISOString();
  }
}
