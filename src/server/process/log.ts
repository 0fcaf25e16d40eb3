import pino from 'pino';
import { config } from './config';

let logger: pino.Logger | undefined;

/** Structured log on standard output; quiet (warnings and worse) unless LOG_LEVEL says otherwise. */
export function log(): pino.Logger {
  logger ??= pino({ level: config().logLevel, base: undefined, timestamp: pino.stdTimeFunctions.isoTime });
  return logger;
}
