import { availableParallelism } from 'node:os';
import { getHeapStatistics } from 'node:v8';
import { StartProblem } from './start-problem.js';

/** Settings from the environment; the start command sets them, tests set their own. */
export interface Config {
  /** Connection of the run-time role. */
  databaseUrl: string;
  host: string;
  port: number;
  /** Folder of the built web application; empty serves the API only. */
  webFolder: string;
  /** Names under which the server answers; guards against DNS rebinding. */
  hostNames: string[];
  /** Addresses of proxies before it that speak TLS: only these are believed who they pass on. */
  proxies: string[];
  /** The record is the demo of the start command, which gives one of its own in its place when asked. */
  demo: boolean;
  /** One-time token for the first administrator that somebody holds already; empty: a new one is made. */
  setUpToken: string;
  /** ISO time at which the clock stands, for tests and pictures; undefined for the real one. */
  fixedNow: string | undefined;
  logLevel: string;
  /** MiB of heap above which kept values are let go; by itself four fifths of what the process may take. */
  heapCeilingMiB: number;
  /** Processors that this process may count on, the database beside it. */
  cores: number;
}

export const CONFIG = Symbol('config');

export function configFromEnvironment(env: NodeJS.ProcessEnv = process.env): Config {
  const databaseUrl = env.INSEL_DATABASE_URL;
  if (!databaseUrl)
    throw new StartProblem('INSEL_DATABASE_URL is not set.', 'Start Insel with "npm start".');
  return {
    databaseUrl,
    host: env.INSEL_HOST ?? '127.0.0.1',
    port: Number(env.INSEL_PORT ?? 0),
    webFolder: env.INSEL_WEB ?? '',
    hostNames: [
      '127.0.0.1',
      'localhost',
      '[::1]',
      ...(env.INSEL_HOST_NAMES ?? '').split(',').filter(Boolean),
    ],
    proxies: (env.INSEL_PROXY ?? '').split(',').filter(Boolean),
    demo: env.INSEL_DEMO === '1',
    setUpToken: env.INSEL_SET_UP_TOKEN ?? '',
    fixedNow: env.INSEL_NOW || undefined,
    logLevel: env.INSEL_LOG ?? 'warn',
    heapCeilingMiB: Number(env.INSEL_HEAP_CEILING_MIB ?? mostHeapMiB() * 0.8),
    cores: Number(env.INSEL_CORES ?? availableParallelism()),
  };
}

const mostHeapMiB = (): number => Math.floor(getHeapStatistics().heap_size_limit / 2 ** 20);
