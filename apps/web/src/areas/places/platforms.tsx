/** Platforms: hypervisor families and releases, known by their properties only. */
import {
  ADAPTER_MODELS,
  ARCHITECTURES,
  DISK_BUSES,
  formatBoth,
  formatMemory,
  KINDS,
  parseBytes,
  parseMemory,
  type Row,
} from '@insel/core';
import { Editable } from '../../components/editable.js';
import { AddNamed, NamedRow, NumberFact } from '../../components/named-row.js';
import { Fact, Facts, Part } from '../../components/sheet.js';
import { editing } from '../../client/change.js';
import { useRead } from '../../client/read.js';

const YES_NO = [
  { value: 'true', label: 'yes' },
  { value: 'false', label: 'no' },
];
const FLAGS: [keyof Row<'platform'> & string, string][] = [
  ['bareMetal', 'Bare-metal'],
  ['needsVirtualisation', 'Needs virtualisation'],
  ['needsWiredPort', 'Needs a wired port'],
  ['natShared', 'NAT is one segment'],
  ['runningMigration', 'Moves running guests'],
  ['thinVolumes', 'Thin volumes'],
  ['dependentClones', 'Dependent clones'],
  ['adapterChangeNeedsRestart', 'Adapter change restarts'],
  ['uefiGuests', 'Guests start by UEFI'],
  ['legacyGuests', 'Guests start by legacy'],
  ['acceleratedGraphics', 'Accelerated graphics'],
];
const NUMBERS: [keyof Row<'platform'> & string, string, string][] = [
  ['keepsPercent', 'Keeps at least', '%'],
  ['overheadPerVcpuMiB', 'Overhead per vCPU', 'MiB'],
  ['overheadMiB', 'Overhead per guest', 'MiB'],
  ['overheadPercent', 'Overhead of memory', '%'],
  ['videoMiB', 'Video memory', 'MiB'],
];

/** Some of these words, in the order in which they are written. */
function wordsOf(
  text: string,
  words: readonly string[],
): { ok: true; value: string[] } | { ok: false; sentence: string } {
  const known = words.filter((word) => word !== 'unknown');
  const found = text
    .split(',')
    .map((part) => known.find((word) => word.toLowerCase() === part.trim().toLowerCase()));
  return found.every((word) => word !== undefined)
    ? { ok: true, value: [...new Set(found)] }
    : { ok: false, sentence: `Write some of: ${known.join(', ')}.` };
}

export function Platforms() {
  const platforms = useRead('platforms').data ?? [];
  return (
    <Part title="Platforms">
      <p className="text-faint">
        Hypervisor families and releases, known by their properties only. What they keep and spend
        on a guest has no published formula: alter it as you measure it.
      </p>
      {platforms.map((platform) => {
        const at = editing('platform.edit', platform);
        const choice = (
          name: string,
          field: keyof Row<'platform'> & string,
          options: readonly string[],
        ) => (
          <Fact name={name}>
            <Editable<string>
              at={at(field)}
              name={name}
              value={String(platform[field])}
              show={String}
              parse={(text) => ({ ok: true, value: text })}
              choices={options.map((value) => ({ value, label: value }))}
            />
          </Fact>
        );
        const among = (
          name: string,
          field: 'diskBuses' | 'adapterModels',
          words: readonly string[],
        ) => (
          <Fact name={name}>
            <Editable<readonly string[]>
              at={at(field)}
              name={name}
              value={platform[field]}
              show={(value) => value.join(', ')}
              parse={(text) => wordsOf(text, words)}
            />
          </Fact>
        );
        return (
          <NamedRow key={platform.id} kept="platform" row={platform}>
            <details>
              <summary className="cursor-pointer text-[13px] text-faint">
                keeps the larger of {platform.keepsMiB} MiB and {platform.keepsPercent} %; from
                level v{platform.minimumLevel}, {formatMemory(platform.minimumMemoryMiB)},{' '}
                {formatBoth(platform.footprintBytes)} of disk; secure boot {platform.secureBoot}
              </summary>
              <Facts>
                <Fact name="Keeps at least">
                  <Editable
                    at={at('keepsMiB')}
                    name="Keeps at least"
                    value={platform.keepsMiB}
                    show={(value) => formatMemory(value)}
                    parse={parseMemory}
                    mono
                  />
                </Fact>
                {NUMBERS.map(([field, name, unit]) => (
                  <NumberFact
                    key={field}
                    at={at(field)}
                    name={name}
                    value={platform[field] as number}
                    unit={unit}
                  />
                ))}
                <Fact name="Least memory">
                  <Editable
                    at={at('minimumMemoryMiB')}
                    name="Least memory"
                    value={platform.minimumMemoryMiB}
                    show={(value) => formatMemory(value)}
                    parse={parseMemory}
                    mono
                  />
                </Fact>
                <Fact name="Least disk">
                  <Editable
                    at={at('footprintBytes')}
                    name="Least disk"
                    value={platform.footprintBytes}
                    show={formatBoth}
                    write={(value) => `${value} B`}
                    parse={parseBytes}
                    mono
                  />
                </Fact>
                <NumberFact
                  at={at('minimumLevel')}
                  name="Lowest level"
                  value={platform.minimumLevel}
                />
                <NumberFact
                  at={at('consolePort')}
                  name="Console port"
                  value={platform.consolePort}
                  none="not known"
                />
                {among('Disk buses', 'diskBuses', DISK_BUSES)}
                {among('Adapter models', 'adapterModels', ADAPTER_MODELS)}
                <Fact name="Linux names">
                  <Editable
                    at={at('interfacePattern')}
                    name="Linux names"
                    value={platform.interfacePattern}
                    show={(value) => `${value}, {n} from ${platform.interfaceFirst}`}
                    write={String}
                    parse={(text) =>
                      text.includes('{n}')
                        ? { ok: true, value: text.trim() }
                        : {
                            ok: false,
                            sentence:
                              'Write {n} where the number of the adapter stands, as in enp{n}s0.',
                          }
                    }
                    mono
                  />
                </Fact>
                <NumberFact
                  at={at('interfaceFirst')}
                  name="{n} begins at"
                  value={platform.interfaceFirst}
                />
                {choice('Architecture', 'architecture', ARCHITECTURES)}
                {choice('Secure boot', 'secureBoot', KINDS.platform.fields.secureBoot!.choices!)}
                {FLAGS.map(([field, name]) => (
                  <Fact key={field} name={name}>
                    <Editable
                      at={at(field)}
                      name={name}
                      value={platform[field] as boolean}
                      show={(value) => (value ? 'yes' : 'no')}
                      write={String}
                      parse={(text) => ({ ok: true, value: text === 'true' })}
                      choices={YES_NO}
                    />
                  </Fact>
                ))}
              </Facts>
            </details>
          </NamedRow>
        );
      })}
      <AddNamed word="platform" kept="platform" />
    </Part>
  );
}
