/** What is done for guests and kept of them: roles, groups, drives, snapshots, builds, the end; many at once. */
import {
  type GuestBuildView,
  type GuestEndView,
  type GuestGroupView,
  type ProfileView,
} from '@insel/contract';
import { guestReferrers } from '@insel/core';
import { Controller, Get, Header, Module, Param } from '@nestjs/common';
import { Clock } from '../clock.js';
import { notFound } from '../http/problem.js';
import { FleetKeeper } from '../record/keeper.js';
import { byName } from '../views/common.js';
import { guestBuildView, guestGroupView } from '../views/guest-care.js';
import { sheetPage } from '../views/sheet-page.js';

@Controller('api')
class GuestCareController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly clock: Clock,
  ) {}

  private needGuest(id: string): void {
    if (!this.keeper.fleet.get('guest', id)) throw notFound('guest');
  }

  @Get('profiles')
  profiles(): ProfileView[] {
    const { fleet } = this.keeper;
    return [...fleet.all('profile')].sort(byName).map((profile) => ({
      ...profile,
      guests: fleet.referringCount('guest', 'profileId', profile.id),
    }));
  }

  @Get('guest-groups')
  groups(): GuestGroupView[] {
    const { fleet } = this.keeper;
    return [...fleet.all('guestGroup')]
      .sort(byName)
      .map((group) => guestGroupView(fleet, group, this.clock.now()));
  }

  @Get('guests/:id/build')
  build(@Param('id') id: string): GuestBuildView {
    this.needGuest(id);
    return guestBuildView(this.keeper.fleet, id);
  }
  /** The same as one file that needs nothing else. */
  @Get('guests/:id/build.html')
  @Header('Content-Type', 'text/html; charset=utf-8')
  buildPage(@Param('id') id: string): string {
    this.needGuest(id);
    const { guest, host, platform, sections, ticks } = guestBuildView(this.keeper.fleet, id);
    const done = (key: string) =>
      ticks[key] &&
      `${ticks[key].outcome} ${ticks[key].at.slice(0, 16).replace('T', ' ')}, ${ticks[key].by}`;
    return sheetPage(
      {
        title: `Build sheet of ${guest}`,
        subtitle: `on ${host}, ${platform}`,
        sections: sections.map(({ title, steps }) => ({
          title,
          lines: steps.map((step) => ({ ...step, done: done(step.key) })),
        })),
      },
      this.clock.now(),
    );
  }

  /** Everything that still refers to it. */
  @Get('guests/:id/end')
  end(@Param('id') id: string): GuestEndView {
    this.needGuest(id);
    return { referrers: guestReferrers(this.keeper.fleet, id) };
  }
}

@Module({ controllers: [GuestCareController] })
export class GuestCareModule {}
