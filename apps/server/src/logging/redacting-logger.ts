import { ConsoleLogger } from '@nestjs/common';
import { redacted, safeText } from './safe-text.js';

/** The framework's own log, without secrets. */
export class RedactingLogger extends ConsoleLogger {
  protected override formatMessage(
    ...[level, message, ...rest]: Parameters<ConsoleLogger['formatMessage']>
  ): string {
    const safe = message instanceof Error ? safeText(message) : redacted(String(message));
    return super.formatMessage(level, safe, ...rest);
  }

  protected override printStackTrace(stack: string): void {
    super.printStackTrace(stack && redacted(stack.replace(/^[^]*?(?=\n\s+at )/, '')));
  }
}

/** An error that nobody caught ends the process with its safe text instead of everything it carries. */
export function endOnUncaught(): void {
  const end = (error: unknown) => {
    console.error(safeText(error));
    process.exit(1);
  };
  process.on('uncaughtException', end);
  process.on('unhandledRejection', end);
}
