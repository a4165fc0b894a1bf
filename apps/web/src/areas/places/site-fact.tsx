/** The site that a rack or a power feed belongs to. */
import { Editable } from '../../components/editable.js';
import { Fact } from '../../components/sheet.js';
import type { At } from '../../client/change.js';
import { useRead } from '../../client/read.js';

export function SiteFact({ at, value }: { at: At; value: string | null }) {
  const sites = useRead('sites').data ?? [];
  return (
    <Fact name="Site">
      <Editable<string | null>
        at={at}
        name="Site"
        value={value}
        show={(id) => sites.find((site) => site.id === id)?.name ?? (id ? '' : 'no site')}
        write={(id) => id ?? ''}
        parse={(text) => ({ ok: true, value: text || null })}
        choices={[
          { value: '', label: 'no site' },
          ...sites.map((site) => ({ value: site.id, label: site.name })),
        ]}
      />
    </Fact>
  );
}
