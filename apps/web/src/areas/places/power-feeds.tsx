/** Power feeds: what they may carry and do, what goes down with one, how long their UPS holds. */
import { Link } from 'react-router';
import { AddNamed, NamedRow, NumberFact } from '../../components/named-row.js';
import { FindingLine } from '../../components/finding-line.js';
import { Fact, Facts, Part } from '../../components/sheet.js';
import { Figure } from '../../components/workings.js';
import { editing } from '../../client/change.js';
import { useRead } from '../../client/read.js';
import { SiteFact } from './site-fact.js';

export function PowerFeeds() {
  const feeds = useRead('powerFeeds').data ?? [];
  return (
    <Part title="Power feeds">
      <p className="text-faint">
        What goes down with one breaker or one UPS. Which supplies hang on which feed is said at
        each host, under Machine. Planned figures are estimates: local electrical codes and an
        electrician decide what a circuit carries.
      </p>
      {feeds.map((feed) => {
        const at = editing('power-feed.edit', feed);
        return (
          <NamedRow key={feed.id} kept="power-feed" row={feed}>
            <Facts>
              <SiteFact at={at('siteId')} value={feed.siteId} />
              <NumberFact
                at={at('watts')}
                name="May carry"
                value={feed.watts}
                unit="W"
                none="not recorded"
              />
              <Fact name="Carries">
                <Figure figure={feed.load} />
              </Fact>
              <NumberFact
                at={at('upsMinutes')}
                name="UPS holds"
                value={feed.upsMinutes}
                unit="min"
                none="not recorded"
              />
              {feed.worst && (
                <Fact name="At most">
                  <span className="mono">
                    {Math.round(feed.worst.watts).toLocaleString('en-GB')} W
                  </span>{' '}
                  <span className="text-faint">when {feed.worst.after} fails</span>
                </Fact>
              )}
              <Fact name="Takes down">
                {feed.takesDown.length === 0 ? (
                  <span className="text-faint">no host</span>
                ) : (
                  <>
                    {feed.takesDown.map(({ id, name }) => (
                      <Link key={id} className="mr-3 underline decoration-rule" to={`/hosts/${id}`}>
                        {name}
                      </Link>
                    ))}
                    <Link className="act mr-2" to={`/chart?fails=feed:${feed.id}`}>
                      What then
                    </Link>{' '}
                    <Link className="act" to={`/guests/shut-down?what=feed&id=${feed.id}`}>
                      Shutdown in order
                    </Link>
                  </>
                )}
              </Fact>
            </Facts>
            <p className="py-0.5 leading-6">
              {feed.hosts.map(({ id, name, here, cords }) => (
                <span key={id} className="mr-4">
                  <Link className="underline decoration-rule" to={`/hosts/${id}`}>
                    {name}
                  </Link>{' '}
                  <span className="text-[13px] text-faint">
                    {here} of {cords} {cords === 1 ? 'supply' : 'supplies'}
                  </span>
                </span>
              ))}
              {feed.hosts.length === 0 && (
                <span className="text-faint">Nothing is plugged in.</span>
              )}
            </p>
            {feed.findings.map((finding) => (
              <FindingLine key={finding.id} finding={finding} brief />
            ))}
          </NamedRow>
        );
      })}
      <AddNamed word="power feed" kept="power-feed" />
    </Part>
  );
}
