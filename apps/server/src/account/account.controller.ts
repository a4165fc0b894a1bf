import {
  AddPersonBody,
  AddTokenBody,
  ChangePasswordBody,
  EditPersonBody,
  SetUpBody,
  SignInBody,
  type Account,
  type AccountEntry,
  type ApiToken,
  type Person,
  type SessionState,
} from '@insel/contract';
import { MikroORM } from '@mikro-orm/postgresql';
import {
  Body,
  Controller,
  Delete,
  Get,
  HttpCode,
  Inject,
  Param,
  Patch,
  Post,
  Req,
  Res,
} from '@nestjs/common';
import type { Response } from 'express';
import { CONFIG, type Config } from '../config.js';
import { RecordId } from './record-id.js';
import { ProblemException } from '../problem-exception.js';
import { accountEntries } from './account-log.js';
import { ApiTokens } from './api-tokens.js';
import { ForReaders, AdministratorOnly, COOKIE, Open, type SignedIn } from './guard.js';
import { newToken } from './passwords.js';
import { People } from './people.js';
import { sessionFor } from './session.js';
import { Sessions } from './sessions.js';
import { SetUp } from './set-up.js';

@Controller('api')
export class AccountController {
  constructor(
    private readonly people: People,
    private readonly sessions: Sessions,
    private readonly tokens: ApiTokens,
    private readonly setUps: SetUp,
    private readonly orm: MikroORM,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  @Get('session')
  @Open()
  session(@Req() request: SignedIn): Promise<SessionState> {
    return sessionFor(this.people, this.config, request.account);
  }

  @Post('session')
  @Open()
  async signIn(
    @Req() request: SignedIn,
    @Body() body: SignInBody,
    @Res({ passthrough: true }) response: Response,
  ): Promise<{ account: Account }> {
    const source = request.ip ?? 'unknown';
    const { token, account } = await this.sessions.signIn(body.name, body.password, source);
    response.cookie(COOKIE, token, {
      httpOnly: true,
      sameSite: 'strict',
      path: '/',
      secure: request.secure || this.config.proxies.length > 0,
    });
    return { account };
  }

  @Delete('session')
  @ForReaders()
  @HttpCode(204)
  async signOut(
    @Req() request: SignedIn,
    @Res({ passthrough: true }) response: Response,
  ): Promise<void> {
    if (request.sessionToken) await this.sessions.signOut(request.sessionToken);
    response.clearCookie(COOKIE, { path: '/' });
  }

  /** Gives the name under which to sign in now. */
  @Post('set-up')
  @Open()
  @HttpCode(200)
  async setUp(@Body() body: SetUpBody): Promise<{ name: string }> {
    return { name: await this.setUps.use(body.token, body.name, body.password) };
  }

  /**
   * From the demo to a record of one's own: the start command, which reads this line, opens it in the demo's place. Gives
   * the token for its first administrator. The demo stays beside it.
   */
  @Post('leave-demo')
  @AdministratorOnly()
  @HttpCode(202)
  leaveDemo(@Req() request: SignedIn): { token: string } {
    bySession(request, 'A token cannot leave the demo: sign in.');
    if (!this.config.demo)
      throw new ProblemException(409, {
        code: 'no-demo',
        sentence: 'This record is no demo: there is nothing to leave.',
      });
    const token = newToken();
    console.log(`INSEL_LEAVE_DEMO ${token}`);
    return { token };
  }

  @Post('password')
  @ForReaders()
  @HttpCode(204)
  async changePassword(@Req() request: SignedIn, @Body() body: ChangePasswordBody): Promise<void> {
    const { old, password, tokens = false } = body;
    const session = bySession(request, 'A token cannot change a password: sign in.');
    await this.people.changePassword(request.account, { old, password, tokens }, session);
  }

  @Get('people')
  @AdministratorOnly()
  all(): Promise<Person[]> {
    return this.people.all();
  }

  @Get('people/log')
  @AdministratorOnly()
  log(): Promise<AccountEntry[]> {
    return accountEntries(this.orm.em.fork());
  }

  @Post('people')
  @AdministratorOnly()
  async add(@Req() { account }: SignedIn, @Body() body: AddPersonBody): Promise<{ id: string }> {
    return { id: await this.people.add(body.name, body.role, body.password, account) };
  }

  @Patch('people/:id')
  @AdministratorOnly()
  @HttpCode(204)
  async edit(
    @Req() { account }: SignedIn,
    @Param('id', RecordId) id: string,
    @Body() body: EditPersonBody,
  ): Promise<void> {
    await this.people.edit(id, body, account);
  }

  /** Those in force: one's own, for an administrator everybody's. */
  @Get('tokens')
  ownTokens(@Req() { account }: SignedIn): Promise<ApiToken[]> {
    return this.tokens.all(account);
  }

  @Post('tokens')
  @ForReaders()
  addToken(
    @Req() request: SignedIn,
    @Body() body: AddTokenBody,
  ): Promise<{ id: string; token: string }> {
    bySession(request, 'A token cannot make tokens: sign in.');
    return this.tokens.add(request.account, body.label);
  }

  @Delete('tokens/:id')
  @ForReaders()
  @HttpCode(204)
  async revoke(@Req() { account }: SignedIn, @Param('id', RecordId) id: string): Promise<void> {
    await this.tokens.revoke(account, id);
  }
}

/** @throws ProblemException 403 where a script asks */
function bySession({ sessionToken }: SignedIn, sentence: string): string {
  if (sessionToken) return sessionToken;
  throw new ProblemException(403, { code: 'session-only', sentence });
}
