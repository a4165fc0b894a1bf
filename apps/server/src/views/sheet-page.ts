/** A sheet to carry along as one HTML file: no script, no other file, A4 or Letter. */

export interface PageLine {
  text: string;
  /** Null: not decided yet, to be filled in by hand. */
  value?: string | null;
  caution?: string;
  /** Ticked already, with when and by whom. */
  done?: string;
}

export interface Page {
  title: string;
  subtitle: string;
  sections: { title: string; lines: PageLine[] }[];
}

/** A time as such pages write it. */
export const minute = (time: string): string => `${time.slice(0, 16).replace('T', ' ')} UTC`;

const escape = (text: string): string =>
  text.replace(/[&<>"']/g, (letter) => `&#${letter.charCodeAt(0)};`);

const STYLE = `body{font:11pt/1.4 "Atkinson Hyperlegible Next",system-ui,sans-serif;color:#15252e;max-width:18cm;margin:1cm auto;padding:0 .5cm}
h1{font-size:17pt;margin:0}h2{font-size:11pt;margin:.6cm 0 .1cm;border-bottom:1px solid #15252e}
li{display:grid;grid-template-columns:.5cm 6.5cm 1fr;gap:.2cm;padding:2px 0;border-bottom:1px solid #d9d2c3;break-inside:avoid}
ul{list-style:none;padding:0;margin:0}.box{width:.36cm;height:.36cm;border:1px solid #15252e;margin-top:3px;font-size:9pt;line-height:.36cm;text-align:center}
b,.value{font-family:"Atkinson Hyperlegible Mono",ui-monospace,monospace;overflow-wrap:anywhere}.caution{grid-column:2/4;font-size:9.5pt}
.blank{border-bottom:1px dotted #15252e;min-height:.6cm}p{margin:.1cm 0}@page{margin:1.5cm}`;

export function sheetPage(page: Page, now: string): string {
  const sections = page.sections
    .map(({ title, lines }) => `<h2>${escape(title)}</h2><ul>${lines.map(lineOf).join('')}</ul>`)
    .join('\n');
  const blanks = Array.from({ length: 5 }, () => '<p class="blank"></p>').join('');
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escape(page.title)}</title><style>${STYLE}</style></head>
<body><h1>${escape(page.title)}</h1><p>${escape(page.subtitle)} · printed from the record on ${escape(now.slice(0, 16).replace('T', ' '))} UTC</p>
${sections}
<h2>What was different</h2>${blanks}<p>Began ____________ Ended ____________ By ________________________</p></body></html>
`;
}

function lineOf({ text, value, caution, done }: PageLine): string {
  const shown =
    value === undefined
      ? ''
      : value === null
        ? '<span class="blank"></span>'
        : `<span class="value">${escape(value)}</span>`;
  return `<li><span class="box">${done ? '✓' : ''}</span><span>${escape(text)}${done ? ` <small>(${escape(done)})</small>` : ''}</span>${shown || '<span></span>'}${caution ? `<span class="caution">◆ Caution: ${escape(caution)}</span>` : ''}</li>`;
}
