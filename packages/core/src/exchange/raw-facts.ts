/**
 * Output of general system tools as they print it, one after another or several pasted together: `lscpu --json` or its
 * text, `lsblk --json -b`, `ip -j addr`, `ip -j route`, /proc/meminfo, /etc/resolv.conf, `dmidecode`. Gathered into the
 * document that the facts script prints, so that it is understood by the same rules. What is not there stays unknown.
 */

/** Undefined where nothing of it is known. */
export function gatherRaw(text: string): Record<string, unknown> | undefined {
  const { documents, rest } = apart(text);
  const found: Record<string, unknown> = {};
  for (const document of documents) Object.assign(found, documentFacts(document));
  Object.assign(found, textFacts(rest, found));
  return Object.keys(found).length > 0 ? { insel_facts: 1, ...found } : undefined;
}

/** So many beginnings that end nowhere are looked at: each reads the text to its end. */
const MOST_TORN = 20;

/** JSON values that begin a line, and what stands between them. */
function apart(text: string): { documents: unknown[]; rest: string } {
  const documents: unknown[] = [];
  let rest = '';
  let at = 0;
  const begins = /^[ \t]*[[{]/gm;
  let failed = 0;
  for (let match = begins.exec(text); match && failed < MOST_TORN; match = begins.exec(text)) {
    const from = match.index + match[0].length - 1;
    const to = endOfValue(text, from);
    const value = to === -1 ? undefined : parsed(text.slice(from, to));
    if (value === undefined) {
      failed += 1;
      continue;
    }
    documents.push(value);
    rest += text.slice(at, match.index);
    at = to;
    begins.lastIndex = to;
  }
  return { documents, rest: rest + text.slice(at) };
}

/** Position after the value that begins there; −1 if it does not end. */
function endOfValue(text: string, from: number): number {
  let depth = 0;
  let quoted = false;
  for (let i = from; i < text.length; i += 1) {
    const letter = text[i];
    if (quoted) {
      if (letter === '\\') i += 1;
      else if (letter === '"') quoted = false;
    } else if (letter === '"') quoted = true;
    else if (letter === '{' || letter === '[') depth += 1;
    else if (letter === '}' || letter === ']') {
      depth -= 1;
      if (depth === 0) return i + 1;
    }
  }
  return -1;
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

type Values = Record<string, unknown>;
const isObject = (value: unknown): value is Values =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

function documentFacts(document: unknown): Values {
  if (isObject(document)) {
    if (Array.isArray(document.lscpu)) return { lscpu: document };
    // Without -b sizes are rounded to three digits: no bytes can be made of them.
    if (Array.isArray(document.blockdevices) && inBytes(document.blockdevices))
      return { lsblk: document };
    return {};
  }
  if (!Array.isArray(document)) return {};
  const rows = document.filter(isObject);
  if (rows.some((row) => 'ifname' in row && 'addr_info' in row)) return { addr: rows };
  return rows.some((row) => 'dst' in row) ? { route: rows } : {};
}

const inBytes = (devices: unknown[]): boolean =>
  devices.filter(isObject).every(({ size }) => /^\d+$/.test(String(size)));

function textFacts(text: string, found: Values): Values {
  const meminfo = text.split('\n').filter((line) => /^MemTotal:\s+\d+ kB\s*$/.test(line));
  const resolv = text.split('\n').filter((line) => /^nameserver\s+\S/.test(line));
  const blocks = dmiBlocks(text);
  const lscpu = found.lscpu === undefined ? lscpuText(text) : [];
  return {
    ...(meminfo.length ? { meminfo: meminfo[0]!.trimEnd() } : {}),
    ...(resolv.length ? { resolv: resolv.join('\n') } : {}),
    ...(lscpu.length ? { lscpu: { lscpu } } : {}),
    ...dmiFacts(blocks),
  };
}

/** Lines "Field: value" of lscpu without --json, from its first line on. */
function lscpuText(text: string): { field: string; data: string }[] {
  const from = text.search(/^Architecture:\s+\S/m);
  if (from === -1) return [];
  return text
    .slice(from)
    .split(/\n\s*\n/)[0]!
    .split('\n')
    .flatMap((line) => {
      const [, field, data] = /^\s*([A-Za-z][^:]*:)\s+(.*\S)\s*$/.exec(line) ?? [];
      return field ? [{ field, data: data! }] : [];
    });
}

interface DmiBlock {
  title: string;
  fields: Map<string, string>;
}

/** dmidecode: "Handle …", a title, indented fields, an empty line. */
function dmiBlocks(text: string): DmiBlock[] {
  return text
    .split(/^Handle 0x[0-9A-Fa-f]+,.*$/m)
    .slice(1)
    .map((block) => {
      const [title = '', ...lines] = block.trim().split('\n');
      const fields = new Map<string, string>();
      for (const line of lines) {
        const [, key, value] = /^\s+([^:]+):\s*(.*?)\s*$/.exec(line) ?? [];
        if (key && value && !fields.has(key)) fields.set(key, value);
      }
      return { title: title.trim(), fields };
    });
}

/** What makers write where they have nothing to say. */
const NOTHING = /^(not specified|to be filled by o\.?e\.?m\.?|default string|none|unknown|0+)$/i;

function dmiFacts(blocks: readonly DmiBlock[]): Values {
  const system = blocks.find(({ title }) => title === 'System Information')?.fields;
  const said = (key: string): string => {
    const value = system?.get(key) ?? '';
    return NOTHING.test(value) ? '' : value;
  };
  const dmi = [
    ['sys_vendor', said('Manufacturer')],
    ['product_name', said('Product Name')],
    ['product_serial', said('Serial Number')],
  ].flatMap(([name, value]) => (value ? [`${name}=${value}`] : []));
  const modules = blocks
    .filter(({ title }) => title === 'Memory Device')
    .flatMap(({ fields }) =>
      ['Size', 'Locator', 'Speed'].flatMap((key) =>
        fields.has(key) ? [`\t${key}: ${fields.get(key)}`] : [],
      ),
    );
  return {
    ...(dmi.length ? { dmi: dmi.join('\n') } : {}),
    ...(modules.length ? { modules: modules.join('\n') } : {}),
  };
}
