/** What may be said to `npm start`. */
import { join, resolve } from 'node:path';
import { DATABASES } from './installation.mjs';
import { ROOT } from './packages.mjs';

/** @throws Error with a sentence for what it does not know */
export function readArguments(words) {
  const found = {
    database: '',
    port: process.env.INSEL_PORT ?? '8420',
    folder: join(ROOT, '.insel'),
  };
  const rest = [...words];
  for (let word = rest.shift(); word !== undefined; word = rest.shift()) {
    const [name, inline] = word.split(/=(.*)/s);
    if (name === '--empty') found.database = DATABASES.own;
    else if (name === '--demo') found.database = DATABASES.demo;
    else if (name === '--port' || name === '--folder') {
      const value = inline ?? rest.shift();
      if (!value) throw new Error(`${name} wants a value.`);
      found[name.slice(2)] = name === '--folder' ? resolve(value) : value;
    } else
      throw new Error(
        `npm start does not know ${word}. It knows --empty, --demo, --port N, --folder PATH.`,
      );
  }
  if (!/^\d{1,5}$/.test(found.port) || Number(found.port) > 65535) {
    throw new Error(`A port is a number up to 65535, not ${found.port}.`);
  }
  return found;
}
