/** Names out of the record as zones, hosts file and reservations; names and pasted lists into it, previewed first. */
import {
  ReadListBody,
  ReadNamesBody,
  ZoneQuery,
  type ListPreviewView,
  type NameSourceView,
  type ReadNamesView,
  type ZoneFilesView,
} from '@insel/contract';
import {
  compareNames,
  forwardZone,
  hostsFile,
  nextSerial,
  parsePrefix,
  prefixOf,
  previewList,
  readList,
  readNames,
  refuse,
  reservationsJson,
  reservationsOf,
  reservationsText,
  reverseZoneFiles,
  zoneDefaults,
  type ZoneDefaults,
} from '@insel/core';
import { Body, Controller, Get, Module, Param, Post, Query } from '@nestjs/common';
import { ForReaders } from '../account/guard.js';
import { Clock } from '../clock.js';
import { notFound, refused } from '../http/problem.js';
import { FleetKeeper } from '../record/keeper.js';

const MOST_DIFFERENCES = 200;

@Controller('api')
class NamesController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly clock: Clock,
  ) {}

  @Get('names/zone-defaults')
  defaults(): ZoneDefaults {
    return zoneDefaults(this.keeper.fleet);
  }

  @Get('names/zones')
  zones(@Query() query: ZoneQuery): ZoneFilesView {
    const { fleet } = this.keeper;
    const today = this.clock.now().slice(0, 10);
    const serial =
      query.oldSerial === undefined
        ? Number(`${today.replaceAll('-', '')}00`)
        : nextSerial(query.oldSerial, today);
    if (serial === null)
      throw refused(
        refuse({
          code: 'serial-wraps',
          field: 'oldSerial',
          sentence:
            'Counting this serial on would wrap round at 2^32: secondary servers would keep the old zone.',
          remedy: 'Start it anew as RFC 1982 and RFC 2182 describe, then give the new one.',
        }),
      );
    const servers = query.servers.split(/[\s,]+/).filter(Boolean);
    if (servers.length === 0)
      throw refused(
        refuse({
          code: 'bad-name',
          field: 'servers',
          sentence: 'Name at least one server of the zone.',
        }),
      );
    const named = [
      ['domain', query.domain],
      ['primary', query.primary],
      ['mailbox', query.mailbox.replace('@', '.')],
      ...servers.map((server) => ['servers', server]),
    ] as [string, string][];
    const bad = named.find(
      ([, text]) => !/^[A-Za-z0-9]([A-Za-z0-9.-]*[A-Za-z0-9])?\.?$/.test(text),
    );
    if (bad)
      throw refused(
        refuse({ code: 'bad-name', field: bad[0], sentence: `"${bad[1]}" is no full name.` }),
      );
    const block = query.prefix ? parsePrefix(query.prefix) : undefined;
    if (block && !block.ok)
      throw refused(refuse({ code: 'bad-prefix', field: 'prefix', sentence: block.sentence }));
    const head = {
      serial,
      primary: query.primary,
      mailbox: query.mailbox.replace('@', '.'),
      servers,
      ttl: query.ttl ?? 3600,
    };
    return {
      serial,
      files: [
        forwardZone(fleet, query.domain, head),
        ...(query.prefix ? reverseZoneFiles(fleet, query.prefix, head) : []),
      ],
    };
  }

  @Get('names/hosts-file')
  hosts(): { text: string } {
    return { text: hostsFile(this.keeper.fleet) };
  }

  @Get('subnets/:id/reservations')
  reservations(@Param('id') id: string): {
    json: string;
    text: string;
    rows: number;
    left: { name: string; why: string }[];
  } {
    const { fleet } = this.keeper;
    const subnet = fleet.get('subnet', id);
    if (!subnet) throw notFound('subnet');
    if (prefixOf(subnet.prefix).family === 6)
      throw refused(
        refuse({ code: 'not-ipv4', sentence: 'Reservations are written for IPv4 subnets.' }),
      );
    const { rows, left } = reservationsOf(fleet, id);
    return {
      json: reservationsJson(fleet, id),
      text: reservationsText(fleet, id),
      rows: rows.length,
      left,
    };
  }

  @Post('names/read')
  @ForReaders()
  read(@Body() { text, origin = '' }: ReadNamesBody): ReadNamesView {
    const read = readNames(text, origin);
    return {
      ...read,
      names: read.names.slice(0, 1000),
      faults: read.faults.slice(0, MOST_DIFFERENCES),
      ...compareNames(this.keeper.fleet, read.names, MOST_DIFFERENCES),
    };
  }

  @Get('names/sources')
  sources(): NameSourceView[] {
    const counts = new Map<string, number>();
    for (const row of this.keeper.fleet.all('nameRecord'))
      counts.set(row.source, (counts.get(row.source) ?? 0) + 1);
    return [...counts]
      .map(([source, names]) => ({ source, names }))
      .sort((a, b) => a.source.localeCompare(b.source));
  }

  @Post('lists/read')
  @ForReaders()
  readList(@Body() { text }: ReadListBody): ListPreviewView {
    const rows = previewList(this.keeper.fleet, readList(text));
    return {
      rows: rows.slice(0, 2000),
      faults: rows.reduce((sum, row) => sum + row.unread.length, 0),
    };
  }
}

@Module({ controllers: [NamesController] })
export class NamesModule {}
