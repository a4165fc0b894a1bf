/** A sheet to carry along as one HTML file: no script, no other file, A4 or Letter. */
import { renderToStaticMarkup } from 'react-dom/server';

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

const STYLE = `body{font:11pt/1.4 "Atkinson Hyperlegible Next",system-ui,sans-serif;color:#15252e;max-width:18cm;margin:1cm auto;padding:0 .5cm}
h1{font-size:17pt;margin:0}h2{font-size:11pt;margin:.6cm 0 .1cm;border-bottom:1px solid #15252e}
li{display:grid;grid-template-columns:.5cm 6.5cm 1fr;gap:.2cm;padding:2px 0;border-bottom:1px solid #d9d2c3;break-inside:avoid}
ul{list-style:none;padding:0;margin:0}.box{width:.36cm;height:.36cm;border:1px solid #15252e;margin-top:3px;font-size:9pt;line-height:.36cm;text-align:center}
.value{font-family:"Atkinson Hyperlegible Mono",ui-monospace,monospace;overflow-wrap:anywhere}.caution{grid-column:2/4;font-size:9.5pt}
.blank{border-bottom:1px dotted #15252e;min-height:.6cm}p{margin:.1cm 0}@page{margin:1.5cm}`;
/** Lines left for what was different. */
const BLANKS = [1, 2, 3, 4, 5];

export const sheetPage = (page: Page, now: string): string =>
  `<!doctype html>\n${renderToStaticMarkup(<Sheet page={page} now={now} />)}\n`;

const Sheet = ({ page: { title, subtitle, sections }, now }: { page: Page; now: string }) => (
  <html lang="en">
    <head>
      <meta charSet="utf-8" />
      <meta name="viewport" content="width=device-width" />
      <title>{title}</title>
      <style>{STYLE}</style>
    </head>
    <body>
      <h1>{title}</h1>
      <p>
        {subtitle} · printed from the record on {minute(now)}
      </p>
      {sections.map((section, i) => (
        <section key={i}>
          <h2>{section.title}</h2>
          <ul>
            {section.lines.map((line, j) => (
              <Line key={j} of={line} />
            ))}
          </ul>
        </section>
      ))}
      <h2>What was different</h2>
      {BLANKS.map((n) => (
        <p key={n} className="blank" />
      ))}
      <p>Began ____________ Ended ____________ By ________________________</p>
    </body>
  </html>
);

const Line = ({ of: { text, value, caution, done } }: { of: PageLine }) => (
  <li>
    <span className="box">{done && '✓'}</span>
    <span>
      {text}
      {done && <small> ({done})</small>}
    </span>
    {value === null ? <span className="blank" /> : <span className="value">{value}</span>}
    {caution && <span className="caution">◆ Caution: {caution}</span>}
  </li>
);
