import {
  AddPersonBody,
  AddTokenBody,
  EditPersonBody,
  SetUpBody,
  SignInBody,
  type Account,
  type Person,
  type SessionState,
} from '@insel/contract';
import {
  Body,
  Controller,
  Delete,
  Get,
  HttpCode,
  Param,
  Patch,
  Post,
  Req,
  Res,
} from '@nestjs/common';
import type { Response } from 'express';
import { ProblemException } from '../http/problem-exception.js';
import { Accounts } from './accounts.js';
import { sessionFor } from './session.js';
import { ForReaders, AdministratorOnly, COOKIE, Open, type SignedIn } from './guard.js';

@Controller('api')
export class AccountController {
  constructor(private readonly accounts: Accounts) {}

  @Get('session')
  @Open()
  session(@Req() request: SignedIn): Promise<SessionState> {
    return sessionFor(this.accounts, request.account);
  }

  @Post('session')
  @Open()
  async signIn(
    @Body() body: SignInBody,
    @Res({ passthrough: true }) response: Response,
  ): Promise<{ account: Account }> {
    const { token, account } = await this.accounts.signIn(body.name, body.password);
    response.cookie(COOKIE, token, {
      httpOnly: true,
      sameSite: 'strict',
      path: '/',
      secure: response.req.secure,
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
    if (request.sessionToken) await this.accounts.signOut(request.sessionToken);
    response.clearCookie(COOKIE, { path: '/' });
  }

  @Post('set-up')
  @Open()
  @HttpCode(204)
  async setUp(@Body() body: SetUpBody): Promise<void> {
    await this.accounts.setUp(body.token, body.name, body.password);
  }

  @Get('people')
  @AdministratorOnly()
  people(): Promise<Person[]> {
    return this.accounts.people();
  }

  @Post('people')
  @AdministratorOnly()
  async add(@Body() body: AddPersonBody): Promise<{ id: string }> {
    return { id: await this.accounts.add(body.name, body.role, body.password) };
  }

  @Patch('people/:id')
  @AdministratorOnly()
  @HttpCode(204)
  async edit(@Param('id') id: string, @Body() body: EditPersonBody): Promise<void> {
    await this.accounts.edit(id, body);
  }

  @Post('tokens')
  @ForReaders()
  addToken(
    @Req() request: SignedIn,
    @Body() body: AddTokenBody,
  ): Promise<{ id: string; token: string }> {
    if (!request.sessionToken)
      throw new ProblemException(403, {
        code: 'session-only',
        sentence: 'A token cannot make tokens: sign in.',
      });
    return this.accounts.addToken(request.account.id, body.label);
  }

  @Delete('tokens/:id')
  @ForReaders()
  @HttpCode(204)
  async revoke(@Req() request: SignedIn, @Param('id') id: string): Promise<void> {
    await this.accounts.revokeToken(request.account.id, id);
  }
}
