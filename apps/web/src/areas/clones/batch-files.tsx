/** First-start files of a batch, side by side and packed. */
import type { LineClone, ReadAnswer } from '@insel/contract';
import { useState } from 'react';
import { FirstStartFile } from '../../components/first-start-file.js';
import { useRead } from '../../client/read.js';

/** First-start files of all of them: shown side by side, then packed in the browser, one folder each. */
export function FirstStartFiles({ clones }: { clones: readonly LineClone[] }) {
  const [open, setOpen] = useState(false);
  const found = useRead('firstStarts', open ? { ids: clones.map(({ guest }) => guest.id) } : null);
  return (
    <section aria-label="First-start files" className="mb-2 text-[13px]">
      <button type="button" className="act" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? 'Close the first-start files' : 'First-start files of all'}
      </button>
      {found.data && (
        <>
          <p className="mt-1 flex flex-wrap gap-x-4">
            <button
              type="button"
              className="act"
              onClick={() => void pack(clones[0]!.origin.name, found.data)}
            >
              Take them, one folder each
            </button>
            {found.data.length > 1 && (
              <span className="text-faint">
                <mark className="bg-sand px-1 text-ink">Washed</mark> lines differ from those of{' '}
                {found.data[0]!.guest.name}.
              </span>
            )}
          </p>
          {found.data.map(({ guest, files }, i) => (
            <details key={guest.id} open={i < 2} className="border-t border-rule py-1">
              <summary className="min-h-6 cursor-pointer font-bold">{guest.name}</summary>
              <div className="grid grid-cols-3 gap-3">
                {files.map(({ name, text, differs }) => (
                  <div key={name} className="min-w-0">
                    <h3 className="mono">{name}</h3>
                    <FirstStartFile
                      name={`${name} of ${guest.name}`}
                      text={text}
                      differs={i === 0 ? [] : differs}
                    />
                  </div>
                ))}
              </div>
            </details>
          ))}
        </>
      )}
    </section>
  );
}

async function pack(origin: string, found: ReadAnswer<'firstStarts'>): Promise<void> {
  const { zipSync, strToU8 } = await import('fflate');
  const files = Object.fromEntries(
    found.flatMap(({ guest, files: own, script }) =>
      [...own, { name: 'own-identity.sh', text: script }].map(({ name, text }) => [
        `${guest.name}/${name}`,
        strToU8(text),
      ]),
    ),
  );
  const url = URL.createObjectURL(new Blob([zipSync(files)], { type: 'application/zip' }));
  const link = document.createElement('a');
  link.href = url;
  link.download = `first-start-${origin}.zip`;
  link.click();
  URL.revokeObjectURL(url);
}
