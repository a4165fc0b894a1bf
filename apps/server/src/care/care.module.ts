/** What is done for guests and kept of them: roles, groups, drives, snapshots, builds, the end; many at once. */
import {
  AttachMediumBody,
  EditDriveBody,
  EditGuestGroupBody,
  EditGuestsBody,
  EditProfileBody,
  EditSnapshotBody,
  OrderAdaptersBody,
  RecordGuestGroupBody,
  RecordGuestsBody,
  RecordProfileBody,
  RecordSnapshotBody,
  RetireGuestBody,
  TickStepBody,
  type GuestBuildView,
  type GuestEndView,
  type GuestGroupView,
  type Preview,
  type ProfileView,
  type Written,
} from '@insel/contract';
import { guestReferrers } from '@insel/core';
import {
  Body,
  Controller,
  Delete,
  Get,
  Header,
  Module,
  Param,
  Patch,
  Post,
  Req,
} from '@nestjs/common';
import type { SignedIn } from '../account/guard.js';
import { Clock } from '../clock.js';
import { notFound } from '../http/problem.js';
import { extrasOf, fieldsIn, Writes } from '../http/writes.js';
import { edgeAt } from '../record/edge.js';
import { FleetKeeper } from '../record/keeper.js';
import { byName } from '../views/common.js';
import { guestBuildView, guestGroupView } from '../views/guest-care.js';
import { guestInput } from '../views/guest-input.js';
import { preview } from '../views/preview.js';
import { sheetPage } from '../views/sheet-page.js';

const recordManyChange = (body: RecordGuestsBody) => ({
  type: 'guest.record-many' as const,
  guests: body.guests.map(guestInput),
  ...extrasOf(body),
});

@Controller('api')
class CareController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly writes: Writes,
    private readonly clock: Clock,
  ) {}

  private needGuest(id: string): void {
    if (!this.keeper.fleet.get('guest', id)) throw notFound('guest');
  }

  @Get('profiles')
  profiles(): ProfileView[] {
    const { fleet } = this.keeper;
    return [...fleet.all('profile')]
      .sort(byName)
      .map((profile) => ({
        ...profile,
        guests: fleet.referringCount('guest', 'profileId', profile.id),
      }));
  }
  @Post('profiles')
  recordProfile(@Req() request: SignedIn, @Body() body: RecordProfileBody): Promise<Written> {
    return this.writes.recordOne(request, 'profile', body);
  }
  /** The usual roles that the record does not have. */
  @Post('profiles/usual')
  usual(@Req() request: SignedIn): Promise<Written> {
    return this.writes.make(request, { type: 'profile.add-usual' });
  }
  @Patch('profiles/:id')
  editProfile(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: EditProfileBody,
  ): Promise<Written> {
    return this.writes.editOne(request, 'profile', id, body);
  }
  @Delete('profiles/:id')
  removeProfile(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.removeOne(request, 'profile', id);
  }

  @Get('guest-groups')
  groups(): GuestGroupView[] {
    const { fleet } = this.keeper;
    return [...fleet.all('guestGroup')]
      .sort(byName)
      .map((group) => guestGroupView(fleet, group, this.clock.now()));
  }
  @Post('guest-groups')
  recordGroup(@Req() request: SignedIn, @Body() body: RecordGuestGroupBody): Promise<Written> {
    return this.writes.recordOne(request, 'guestGroup', body);
  }
  @Patch('guest-groups/:id')
  editGroup(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: EditGuestGroupBody,
  ): Promise<Written> {
    return this.writes.editOne(request, 'guestGroup', id, body);
  }
  @Delete('guest-groups/:id')
  removeGroup(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.removeOne(request, 'guestGroup', id);
  }

  @Post('guests/:id/drives')
  attach(
    @Req() request: SignedIn,
    @Param('id') guestId: string,
    @Body() body: AttachMediumBody,
  ): Promise<Written> {
    return this.writes.recordOne(request, 'drive', body, { guestId });
  }
  @Patch('drives/:id')
  editDrive(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: EditDriveBody,
  ): Promise<Written> {
    return this.writes.editOne(request, 'drive', id, body);
  }
  @Delete('drives/:id')
  eject(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.removeOne(request, 'drive', id);
  }

  @Post('guests/:id/snapshots')
  recordSnapshot(
    @Req() request: SignedIn,
    @Param('id') guestId: string,
    @Body() body: RecordSnapshotBody,
  ): Promise<Written> {
    return this.writes.recordOne(request, 'snapshot', body, { guestId });
  }
  @Patch('snapshots/:id')
  editSnapshot(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: EditSnapshotBody,
  ): Promise<Written> {
    return this.writes.editOne(request, 'snapshot', id, body);
  }
  @Delete('snapshots/:id')
  removeSnapshot(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.removeOne(request, 'snapshot', id);
  }

  @Post('guests/:id/adapters/order')
  order(
    @Req() request: SignedIn,
    @Param('id') guestId: string,
    @Body() body: OrderAdaptersBody,
  ): Promise<Written> {
    return this.writes.make(request, {
      type: 'adapter.order',
      guestId,
      ids: body.ids,
      ...extrasOf(body),
    });
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
  @Post('guests/:id/build/ticks')
  tick(
    @Req() request: SignedIn,
    @Param('id') guestId: string,
    @Body() body: TickStepBody,
  ): Promise<Written> {
    return this.writes.make(request, {
      type: 'guest.tick',
      guestId,
      step: body.step,
      outcome: body.outcome ?? null,
      remark: body.remark,
      ...extrasOf(body),
    });
  }

  /** Everything that still refers to it. */
  @Get('guests/:id/end')
  end(@Param('id') id: string): GuestEndView {
    this.needGuest(id);
    return { referrers: guestReferrers(this.keeper.fleet, id) };
  }
  @Post('guests/:id/retire')
  retire(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: RetireGuestBody,
  ): Promise<Written> {
    return this.writes.make(request, {
      type: 'guest.retire',
      id,
      clear: body.clear,
      ...extrasOf(body),
    });
  }

  @Post('guests/edit')
  editMany(@Req() request: SignedIn, @Body() body: EditGuestsBody): Promise<Written> {
    return this.writes.make(request, {
      type: 'guest.edit-many',
      ids: body.ids,
      fields: fieldsIn(body, 'ids'),
      ...extrasOf(body),
    });
  }
  @Post('guests/many')
  recordMany(@Req() request: SignedIn, @Body() body: RecordGuestsBody): Promise<Written> {
    return this.writes.make(request, recordManyChange(body));
  }
  @Post('guests/many/preview')
  previewMany(@Req() request: SignedIn, @Body() body: RecordGuestsBody): Preview {
    return preview(
      this.keeper.fleet,
      recordManyChange(body),
      edgeAt(this.clock.now(), request.account),
    );
  }
}

@Module({ controllers: [CareController] })
export class CareModule {}
