/** The mapper with the owner's connection and all migrations: they are read by the command that runs them, and by nobody else. */
import { Migrator } from '@mikro-orm/migrations';
import { Migration0001Record } from './migrations/migration-0001-record.js';
import { Migration0002Attachment } from './migrations/migration-0002-attachment.js';
import { Migration0003Hosts } from './migrations/migration-0003-hosts.js';
import { Migration0004Networks } from './migrations/migration-0004-networks.js';
import { Migration0005Starts } from './migrations/migration-0005-starts.js';
import { Migration0006Guests } from './migrations/migration-0006-guests.js';
import { Migration0007Times } from './migrations/migration-0007-times.js';
import { Migration0008Inputs } from './migrations/migration-0008-inputs.js';
import { Migration0009Maintenance } from './migrations/migration-0009-maintenance.js';
import { Migration0010Acceptance } from './migrations/migration-0010-acceptance.js';
import { Migration0011StartsAtOnce } from './migrations/migration-0011-starts-at-once.js';
import { Migration0012Templates } from './migrations/migration-0012-templates.js';
import { Migration0013Moves } from './migrations/migration-0013-moves.js';
import { Migration0014Roles } from './migrations/migration-0014-roles.js';
import { Migration0015Accounts } from './migrations/migration-0015-accounts.js';
import { Migration0016Trunks } from './migrations/migration-0016-trunks.js';
import { Migration0017Plans } from './migrations/migration-0017-plans.js';
import { Migration0018HabitsAndApproval } from './migrations/migration-0018-habits-and-approval.js';
import { Migration0019Computers } from './migrations/migration-0019-computers.js';
import { Migration0020WorkWindows } from './migrations/migration-0020-work-windows.js';
import { Migration0021ForwardedPorts } from './migrations/migration-0021-forwarded-ports.js';
import { Migration0022PowerFeeds } from './migrations/migration-0022-power-feeds.js';
import { Migration0023AsDescribed } from './migrations/migration-0023-as-described.js';
import { openOrm } from './orm.js';

const MIGRATIONS = [
  { name: 'migration-0001-record', class: Migration0001Record },
  { name: 'migration-0002-attachment', class: Migration0002Attachment },
  { name: 'migration-0003-hosts', class: Migration0003Hosts },
  { name: 'migration-0004-networks', class: Migration0004Networks },
  { name: 'migration-0005-starts', class: Migration0005Starts },
  { name: 'migration-0006-guests', class: Migration0006Guests },
  { name: 'migration-0007-times', class: Migration0007Times },
  { name: 'migration-0008-inputs', class: Migration0008Inputs },
  { name: 'migration-0009-maintenance', class: Migration0009Maintenance },
  { name: 'migration-0010-acceptance', class: Migration0010Acceptance },
  { name: 'migration-0011-starts-at-once', class: Migration0011StartsAtOnce },
  { name: 'migration-0012-templates', class: Migration0012Templates },
  { name: 'migration-0013-moves', class: Migration0013Moves },
  { name: 'migration-0014-roles', class: Migration0014Roles },
  { name: 'migration-0015-accounts', class: Migration0015Accounts },
  { name: 'migration-0016-trunks', class: Migration0016Trunks },
  { name: 'migration-0017-plans', class: Migration0017Plans },
  { name: 'migration-0018-habits-and-approval', class: Migration0018HabitsAndApproval },
  { name: 'migration-0019-computers', class: Migration0019Computers },
  { name: 'migration-0020-work-windows', class: Migration0020WorkWindows },
  { name: 'migration-0021-forwarded-ports', class: Migration0021ForwardedPorts },
  { name: 'migration-0022-power-feeds', class: Migration0022PowerFeeds },
  { name: 'migration-0023-as-described', class: Migration0023AsDescribed },
];

export const openMigratingOrm = (ownerUrl: string) =>
  openOrm(ownerUrl, {
    extensions: [Migrator],
    migrations: { migrationsList: MIGRATIONS, snapshot: false, tableName: 'schema_migration' },
  });
