/** Notes as they are meant: lists, links, emphasis, code. Nothing is fetched, and no HTML that was written in is made. */
import { default as Compiled, type MarkdownToJSX } from 'markdown-to-jsx/react';
import type { ReactNode } from 'react';

/** A heading inside of notes is none of the page. */
const Heading = ({ children }: { children?: ReactNode }) => <p className="font-bold">{children}</p>;
const headings = Object.fromEntries(
  ['h1', 'h2', 'h3', 'h4', 'h5', 'h6'].map((level) => [level, Heading]),
);

const OPTIONS: MarkdownToJSX.Options = {
  disableParsingRawHTML: true,
  forceBlock: true,
  overrides: {
    ...headings,
    a: ({ href, children }: { href?: string; children?: ReactNode }) => (
      <a href={href} target="_blank" rel="noreferrer">
        {children}
      </a>
    ),
    img: ({ alt, src }: { alt?: string; src?: string }) => <>{alt || src}</>,
  },
};

export default function Markdown({ text }: { text: string }) {
  return (
    <div className="notes">
      <Compiled options={OPTIONS}>{text}</Compiled>
    </div>
  );
}
