import { READ_PATHS, type Account } from '@insel/contract';
import { Injectable, SetMetadata, type CanActivate, type ExecutionContext } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import type { Request, Response } from 'express';
import { ProblemException } from '../problem-exception.js';
import { isConnectionLost } from '../database/watch.js';
import { Sessions } from './sessions.js';

export const COOKIE = 'insel_session';
export type SignedIn = Request & { account: Account; sessionToken?: string };

/** A route that needs no sign-in. */
export const Open = () => SetMetadata('open', true);
/** A route that readers may use although it is no GET: a question with a body, or their own session and tokens. */
export const ForReaders = () => SetMetadata('for readers', true);
/** A route for administrators only. */
export const AdministratorOnly = () => SetMetadata('administrator', true);

@Injectable()
export class AccountGuard implements CanActivate {
  constructor(
    private readonly sessions: Sessions,
    private readonly reflector: Reflector,
  ) {}

  async canActivate(context: ExecutionContext): Promise<boolean> {
    const marked = (name: string) =>
      this.reflector.getAllAndOverride<boolean>(name, [
        context.getHandler(),
        context.getClass(),
      ]) === true;
    const request = context.switchToHttp().getRequest<SignedIn>();
    const open = marked('open');
    const account = await accountOfRequest(this.sessions, request).catch((error: unknown) => {
      if (open && isConnectionLost(error)) return undefined;
      throw error;
    });
    if (account) request.account = account;
    if (open) return true;
    if (!account && isCalendar(request))
      context
        .switchToHttp()
        .getResponse<Response>()
        .setHeader('WWW-Authenticate', 'Basic realm="Insel", charset="UTF-8"');
    if (!account)
      throw new ProblemException(401, { code: 'not-signed-in', sentence: 'Sign in first.' });
    if (marked('administrator') && account.role !== 'administrator') {
      throw new ProblemException(403, {
        code: 'administrators-only',
        sentence: 'Only an administrator may do this.',
      });
    }
    // Before anybody looks at a body: who may only read has none looked at.
    const asks = request.method === 'GET' || request.method === 'HEAD' || marked('for readers');
    if (account.role === 'reader' && !asks) throw notYourRole(account.role);
    return true;
  }
}

export const notYourRole = (role: Account['role']): ProblemException =>
  new ProblemException(403, {
    code: 'not-your-role',
    sentence: `As ${role} you may read, not alter.`,
    remedy: 'Ask an administrator for the role of planner.',
  });

/** Programs that subscribe to a calendar know names and passwords (RFC 7617): the password is a token. */
const isCalendar = ({ method, path }: Request): boolean =>
  (method === 'GET' || method === 'HEAD') && path === `/api/${READ_PATHS.calendar}`;

export async function accountOfRequest(
  sessions: Sessions,
  request: SignedIn,
): Promise<Account | undefined> {
  const bearer = /^Bearer (\S+)$/.exec(request.headers.authorization ?? '');
  if (bearer) return sessions.byApiToken(bearer[1]!);
  const basic = isCalendar(request) && /^Basic (\S+)$/.exec(request.headers.authorization ?? '');
  if (basic) {
    const said = Buffer.from(basic[1]!, 'base64').toString('utf8');
    return sessions.byApiToken(said.slice(said.indexOf(':') + 1));
  }
  const token = (request.cookies as Record<string, string> | undefined)?.[COOKIE];
  if (!token) return undefined;
  request.sessionToken = token;
  return sessions.bySession(token);
}
