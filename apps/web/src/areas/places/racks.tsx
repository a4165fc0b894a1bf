/** Racks: where they stand, what their hosts draw, which units are taken. */
import { Link } from 'react-router';
import { AddNamed, NamedRow, NumberFact } from '../../components/named-row.js';
import { Fact, Facts, Part } from '../../components/sheet.js';
import { Figure } from '../../components/workings.js';
import { editing } from '../../client/change.js';
import { useRead } from '../../client/read.js';
import { SiteFact } from './site-fact.js';

export function Racks() {
  const racks = useRead('racks').data ?? [];
  return (
    <Part title="Racks">
      {racks.map((rack) => {
        const at = editing('rack.edit', rack);
        return (
          <NamedRow key={rack.id} kept="rack" row={rack}>
            <Facts>
              <SiteFact at={at('siteId')} value={rack.siteId} />
              <NumberFact at={at('units')} name="Units" value={rack.units} unit="U" />
              <NumberFact
                at={at('feedWatts')}
                name="Feeds planned for"
                value={rack.feedWatts}
                unit="W"
                none="not planned"
              />
              <Fact name="Hosts draw">
                <Figure figure={rack.draw} />
              </Fact>
              <NumberFact
                at={at('upsMinutes')}
                name="UPS holds"
                value={rack.upsMinutes}
                unit="min"
                none="none"
              />
            </Facts>
            <p className="py-0.5 leading-6">
              {rack.hosts.map((host) => (
                <span key={host.id} className="mr-4">
                  <span className="mono text-[13px] text-faint">
                    {host.unit === null
                      ? 'no unit'
                      : host.height > 1
                        ? `U ${host.unit}–${host.unit + host.height - 1}`
                        : `U ${host.unit}`}
                  </span>{' '}
                  <Link className="underline decoration-rule" to={`/hosts/${host.id}`}>
                    {host.name}
                  </Link>
                </span>
              ))}
            </p>
            <p className="text-xs text-faint">
              Planned figures are estimates: local electrical codes and an electrician decide what a
              circuit carries.
            </p>
          </NamedRow>
        );
      })}
      <AddNamed word="rack" kept="rack" />
    </Part>
  );
}
