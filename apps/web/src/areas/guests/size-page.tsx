/** From "a machine that does X for N people" to a guest that fits: role and load, size, place, devices, names, then the plan. */
import type { NetworkListRow, ProfileView, SizeAnswer } from '@insel/contract';
import { ADAPTER_MODELS, DISK_BUSES, formatBoth, formatMemory, type GuestBuild } from '@insel/core';
import { useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { useDraft } from '../../frame/draft.js';
import { useMayPlan } from '../../frame/session.js';
import { useChange } from '../../frame/change.js';
import { Making } from '../../components/area.js';
import { useSettled } from '../../components/use-settled.js';
import { Consequences, Sending, usePreview } from '../../components/consequences.js';
import { errorsOf, Field } from '../../components/field.js';
import { ProblemNote } from '../../components/problem.js';
import { Figure } from '../../components/workings.js';
import {
  devicesOf,
  EMPTY_SIZE,
  readSize,
  sizePlan,
  sizeQuestion,
  type SizeDraft,
} from './size-form.js';
import { Places } from './size-places.js';
import { useRead } from '../../frame/read.js';

type Set = (change: Partial<SizeDraft>) => void;

export function SizePage() {
  const go = useNavigate();
  const mayPlan = useMayPlan();
  const [draft, set, forget] = useDraft<SizeDraft>('guest-size', () => EMPTY_SIZE);
  const [tried, setTried] = useState(false);
  const profiles = useRead('profiles').data ?? [];
  const networks = useRead('networks', { take: 200 }).data?.rows ?? [];
  const media = useRead('media').data ?? [];
  const profile = profiles.find((found) => found.id === draft.profileId);
  const networkIds = Array.from(
    { length: profile?.adapters ?? 0 },
    (_, i) => draft.networkIds[i] ?? '',
  );
  const question = sizeQuestion(draft, profile, networkIds);
  const sized = useRead('guestSize', useSettled(question), { keep: true, once: true });
  const answer = sized.data;
  const fault = question ? sized.error : null;
  const medium = media.find((found) => found.id === draft.mediumId);
  const plan =
    question &&
    sizePlan(
      draft,
      profile,
      answer,
      networkIds,
      medium ? (medium.install === 'network' ? 'network' : 'full') : null,
    );
  const preview = usePreview('guest.plan', plan);
  const { make, busy, problem } = useChange();
  const errors = errorsOf(problem);
  const send = async () => {
    setTried(true);
    if (!plan) return;
    const written = await make('guest.plan', plan, draft);
    if (!written) return;
    forget();
    void go(`/guests/${written.subjects[0]!.id}/build`);
  };
  return (
    <Making
      title="Size a guest"
      consequences={
        <>
          {answer && (
            <p className="mb-3 border-b border-ink pb-2 font-bold">{answer.suggested.sentence}</p>
          )}
          {fault && <p className="text-signal">{fault.message}</p>}
          {plan ? (
            <Consequences preview={preview} planning />
          ) : (
            <p className="text-faint">
              {answer
                ? 'Give it a name: what the plan would do appears here.'
                : 'Choose what it does: its size, places and devices follow.'}
            </p>
          )}
          {preview?.build && <StepsBrief build={preview.build} />}
        </>
      }
      form={
        <form onSubmit={(event) => event.preventDefault()} className="max-w-[820px]">
          <Section title="What it does">
            <Purpose draft={draft} set={set} profiles={profiles} profile={profile} />
          </Section>
          {answer && profile && (
            <>
              <Section title="Size">
                <SizeTable draft={draft} set={set} answer={answer} profileId={profile.id} />
              </Section>
              <Section title="Networks and neighbours">
                <Neighbours
                  draft={draft}
                  set={set}
                  networks={networks}
                  networkIds={networkIds}
                  answer={answer}
                  profile={profile}
                  errors={errors}
                />
              </Section>
              <Section title="Place">
                <Places
                  answer={answer}
                  choose={(hostId) => set({ hostId, poolId: '' })}
                  poolId={draft.poolId}
                  choosePool={(poolId) => set({ poolId })}
                />
                <label className="mt-1 flex items-center gap-2">
                  <input
                    type="checkbox"
                    checked={draft.thin}
                    onChange={(event) => set({ thin: event.target.checked })}
                  />{' '}
                  Its volumes grow later (thin), instead of being allocated now
                </label>
              </Section>
              <Section title="Devices">
                <Devices draft={draft} set={set} answer={answer} />
              </Section>
              <Section title="Name and medium">
                <div className="grid grid-cols-3 gap-3">
                  <Field
                    label="Name"
                    error={
                      errors.name ?? (tried && !draft.name.trim() ? 'Give it a name.' : undefined)
                    }
                  >
                    <input
                      value={draft.name}
                      onChange={(event) => set({ name: event.target.value })}
                    />
                  </Field>
                  <Field label="Purpose">
                    <input
                      value={draft.purpose}
                      onChange={(event) => set({ purpose: event.target.value })}
                    />
                  </Field>
                  <Field label="Owner">
                    <input
                      value={draft.owner}
                      onChange={(event) => set({ owner: event.target.value })}
                    />
                  </Field>
                  <Field
                    label="Installed from"
                    hint={
                      medium?.newer
                        ? `◆ ${medium.newer.name} is newer`
                        : medium?.install === 'network'
                          ? 'needs gateway and name server while it installs'
                          : undefined
                    }
                  >
                    <select
                      value={draft.mediumId}
                      onChange={(event) => set({ mediumId: event.target.value })}
                    >
                      <option value="">nothing yet</option>
                      {media
                        .filter(
                          (found) => found.family === profile.family && found.install !== 'drivers',
                        )
                        .map((found) => (
                          <option key={found.id} value={found.id}>
                            {found.name}
                          </option>
                        ))}
                    </select>
                  </Field>
                </div>
              </Section>
              <ProblemNote problem={problem} />
              {mayPlan && (
                <Sending
                  label="Plan the guest"
                  busy={busy}
                  blocked={Boolean(
                    problem?.overridable || preview?.objections.some((found) => found.overridable),
                  )}
                  reason={draft.reason}
                  override={draft.override}
                  onReason={(reason) => set({ reason })}
                  onOverride={(override) => set({ override })}
                  onSend={() => void send()}
                />
              )}
            </>
          )}
        </form>
      }
    />
  );
}

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="mb-4 border-t border-rule pt-2">
      <h2 className="mb-1 font-bold">{title}</h2>
      {children}
    </section>
  );
}

function Purpose({
  draft,
  set,
  profiles,
  profile,
}: {
  draft: SizeDraft;
  set: Set;
  profiles: ProfileView[];
  profile: ProfileView | undefined;
}) {
  const { faults } = readSize(draft);
  // What was chosen for one role does not hold for another.
  const choose = (profileId: string) =>
    set({
      profileId,
      load: '',
      vcpu: '',
      memory: '',
      system: '',
      data: '',
      bus: '',
      model: '',
      firmware: '',
      processor: '',
      hostId: '',
      mediumId: '',
    });
  return (
    <div className="grid grid-cols-4 gap-3">
      <Field label="Role" hint={profile && `${profile.family}, ${profile.display}`}>
        <select autoFocus value={draft.profileId} onChange={(event) => choose(event.target.value)}>
          <option value="">choose a role</option>
          {profiles.map((found) => (
            <option key={found.id} value={found.id}>
              {found.name}
            </option>
          ))}
        </select>
      </Field>
      {profile?.loadUnit && (
        <>
          <Field label={`Load, ${profile.loadUnit}`} error={faults.load}>
            <input
              className="mono"
              inputMode="numeric"
              value={draft.load}
              placeholder={String(profile.usualLoad)}
              onChange={(event) => set({ load: event.target.value })}
            />
          </Field>
          <Field label="Grows by % a year" error={faults.growth}>
            <input
              className="mono"
              inputMode="numeric"
              value={draft.growth}
              onChange={(event) => set({ growth: event.target.value })}
            />
          </Field>
          <Field label="For so many years" error={faults.years}>
            <input
              className="mono"
              inputMode="numeric"
              value={draft.years}
              onChange={(event) => set({ years: event.target.value })}
            />
          </Field>
        </>
      )}
    </div>
  );
}

function SizeTable({
  draft,
  set,
  answer,
  profileId,
}: {
  draft: SizeDraft;
  set: Set;
  answer: SizeAnswer;
  profileId: string;
}) {
  const { suggested, chosen, guards } = answer;
  const similar = useRead('profileUse', { id: profileId }).data?.use;
  const { faults } = readSize(draft);
  const rows = [
    {
      field: 'vcpu' as const,
      title: 'vCPU',
      figure: suggested.vcpu,
      taken: `${chosen.vcpu} vCPU`,
      like: similar?.vcpuP95 == null ? '' : `${similar.vcpuP95.toFixed(1)} vCPU`,
    },
    {
      field: 'memory' as const,
      title: 'Memory',
      figure: suggested.memory,
      taken: formatMemory(chosen.memoryMiB),
      like: similar?.memoryP95MiB == null ? '' : formatMemory(similar.memoryP95MiB, 'up'),
    },
    {
      field: 'system' as const,
      title: 'System volume',
      figure: suggested.system,
      taken: chosen.systemBytes ? formatBoth(chosen.systemBytes) : 'none',
      like: '',
    },
    ...(suggested.data || draft.data
      ? [
          {
            field: 'data' as const,
            title: 'Data volume',
            figure: suggested.data,
            taken: formatBoth(chosen.dataBytes),
            like: '',
          },
        ]
      : []),
  ];
  return (
    <>
      <table className="w-full text-left">
        <thead>
          <tr className="text-xs text-faint">
            <th />
            <th>suggested</th>
            <th>another instead</th>
            <th>taken</th>
            <th>{similar && `its likes use (P95, type 7, of ${similar.guests})`}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.field} className="border-t border-rule">
              <th scope="row" className="py-1 pr-3 font-normal text-faint">
                {row.title}
              </th>
              <td>{row.figure && <Figure figure={row.figure} rounding="up" />}</td>
              <td>
                <input
                  aria-label={`${row.title} instead`}
                  className="mono my-0.5 w-[130px]"
                  aria-invalid={Boolean(faults[row.field])}
                  placeholder="as suggested"
                  value={draft[row.field]}
                  onChange={(event) => set({ [row.field]: event.target.value })}
                />
                {faults[row.field] && (
                  <span className="block text-xs font-bold text-signal">{faults[row.field]}</span>
                )}
              </td>
              <td className="mono">{row.taken}</td>
              <td className="mono">{row.like}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {guards.map((guard) => (
        <p key={guard.guard} className="text-[13px]">
          <b
            className={
              guard.severity === 'blocker'
                ? 'text-signal'
                : guard.severity === 'caution'
                  ? 'text-amber'
                  : ''
            }
          >
            {guard.severity === 'blocker'
              ? '■ Too wide.'
              : guard.severity === 'caution'
                ? '◆ Caution.'
                : '● Note.'}
          </b>{' '}
          {guard.sentence} <span className="text-faint">{guard.source.text}.</span>
        </p>
      ))}
    </>
  );
}

function Neighbours({
  draft,
  set,
  networks,
  networkIds,
  answer,
  profile,
  errors,
}: {
  draft: SizeDraft;
  set: Set;
  networks: NetworkListRow[];
  networkIds: string[];
  answer: SizeAnswer;
  profile: ProfileView;
  errors: Record<string, string>;
}) {
  const groups = useRead('guestGroups').data ?? [];
  const rules = useRead('placementRules').data ?? [];
  const put = (list: string[], i: number, value: string) =>
    Array.from({ length: Math.max(list.length, i + 1) }, (_, n) =>
      n === i ? value : (list[n] ?? ''),
    );
  return (
    <>
      {networkIds.map((networkId, i) => (
        <div key={i} className="grid grid-cols-[1fr_1fr_1fr] items-end gap-3">
          <Field
            label={
              profile.forwards
                ? i === 0
                  ? 'Outside, with the gateway'
                  : `Inside ${i}`
                : networkIds.length > 1
                  ? `Network ${i + 1}`
                  : 'Network'
            }
            error={errors[`adapters.${i}.networkId`]}
          >
            <select
              value={networkId}
              onChange={(event) =>
                set({ networkIds: put(draft.networkIds, i, event.target.value) })
              }
            >
              <option value="">none</option>
              {networks.map((network) => (
                <option key={network.id} value={network.id}>
                  {network.name}
                  {network.vlanId ? `, VLAN ${network.vlanId}` : ''}
                </option>
              ))}
            </select>
          </Field>
          <Field label="Address" error={errors[`adapters.${i}.ip`]}>
            <input
              className="mono"
              placeholder="next free one"
              disabled={!networkId}
              value={draft.ips[i] ?? ''}
              onChange={(event) => set({ ips: put(draft.ips, i, event.target.value) })}
            />
          </Field>
          <span className="pb-1 text-[13px] text-faint">
            {answer.interfaces[i] && (
              <>
                inside expected as <span className="mono">{answer.interfaces[i]}</span>
              </>
            )}
          </span>
        </div>
      ))}
      {profile.forwards && (
        <label className="mt-1 flex items-center gap-2">
          <input
            type="checkbox"
            checked={draft.translate}
            onChange={(event) => set({ translate: event.target.checked })}
          />{' '}
          It translates what goes out: those inside share its outer address
        </label>
      )}
      <div className="mt-2 grid grid-cols-3 gap-3">
        <Field
          label="Group it joins"
          hint={
            groups.find((group) => group.id === draft.groupId && group.spread !== 'none') &&
            'spread over hosts, racks or sites as the group says'
          }
        >
          <select value={draft.groupId} onChange={(event) => set({ groupId: event.target.value })}>
            <option value="">none</option>
            {groups.map((group) => (
              <option key={group.id} value={group.id}>
                {group.name}
              </option>
            ))}
          </select>
        </Field>
        <Field label="Rule it joins">
          <select
            value={draft.ruleIds[0] ?? ''}
            onChange={(event) => set({ ruleIds: event.target.value ? [event.target.value] : [] })}
          >
            <option value="">none</option>
            {rules.map((rule) => (
              <option key={rule.id} value={rule.id}>
                {rule.name} ({rule.rule})
              </option>
            ))}
          </select>
        </Field>
        <Field label="It changes hosts">
          <select
            value={draft.movesRunning ? 'running' : 'stopped'}
            onChange={(event) => set({ movesRunning: event.target.value === 'running' })}
          >
            <option value="running">while running</option>
            <option value="stopped">only while it is off</option>
          </select>
        </Field>
      </div>
    </>
  );
}

const OTHERS: {
  device: SizeAnswer['devices'][number]['device'];
  field: 'bus' | 'model' | 'firmware' | 'processor';
  choices: readonly string[];
}[] = [
  { device: 'disk bus', field: 'bus', choices: DISK_BUSES.filter((bus) => bus !== 'unknown') },
  {
    device: 'adapter model',
    field: 'model',
    choices: ADAPTER_MODELS.filter((model) => model !== 'unknown'),
  },
  { device: 'firmware', field: 'firmware', choices: ['UEFI', 'legacy'] },
  { device: 'processor', field: 'processor', choices: ['host', 'v1', 'v2', 'v3', 'v4'] },
];
const WORD: Record<string, string> = {
  host: 'the host’s own',
  v1: 'level v1',
  v2: 'level v2',
  v3: 'level v3',
  v4: 'level v4',
};
const word = (choice: string): string => WORD[choice] ?? choice;

function Devices({ draft, set, answer }: { draft: SizeDraft; set: Set; answer: SizeAnswer }) {
  const taken = devicesOf(draft, answer);
  return (
    <>
      {answer.devices.map((advice) => {
        const other = OTHERS.find((found) => found.device === advice.device);
        return (
          <div
            key={advice.device}
            className="grid grid-cols-[100px_180px_1fr] items-baseline gap-3 border-t border-rule py-1 text-[13px]"
          >
            <span className="text-faint">{advice.device}</span>
            {other ? (
              <select
                aria-label={`Choice of ${advice.device}`}
                value={draft[other.field]}
                onChange={(event) => set({ [other.field]: event.target.value })}
              >
                <option value="">{word(advice.choice)} (advised)</option>
                {other.choices
                  .filter((choice) => choice !== advice.choice)
                  .map((choice) => (
                    <option key={choice} value={choice}>
                      {word(choice)}
                    </option>
                  ))}
              </select>
            ) : (
              <b>{word(advice.choice)}</b>
            )}
            <span>
              {advice.reason}{' '}
              <span className="text-faint">
                {advice.consequence} {advice.source.text}.
              </span>
            </span>
          </div>
        );
      })}
      {taken.firmware === 'UEFI' && (
        <label className="mt-1 flex items-center gap-2">
          <input
            type="checkbox"
            checked={draft.variables}
            onChange={(event) => set({ variables: event.target.checked })}
          />{' '}
          A small volume of its own for the UEFI variables
        </label>
      )}
    </>
  );
}

/** What follows the plan, in brief: the sheet itself comes once it is planned. */
function StepsBrief({ build }: { build: GuestBuild }) {
  const total = build.sections.reduce((sum, section) => sum + section.steps.length, 0);
  return (
    <section
      aria-label="Build steps"
      className="mt-4 border-t border-dashed border-pencil pt-2 text-[13px]"
    >
      <h3 className="font-bold text-pencil">
        Then it is built in {total} steps,{' '}
        {build.way === 'copy'
          ? 'as a copy'
          : build.way === 'no medium'
            ? 'with no medium chosen yet'
            : `by ${build.way}`}
      </h3>
      {build.sections.map((section) => (
        <details key={section.title}>
          <summary className="min-h-6 cursor-pointer">
            {section.title}, {section.steps.length}
          </summary>
          <ol className="list-decimal pl-5">
            {section.steps.map((step) => (
              <li key={step.key}>
                {step.text}
                {step.value && <span className="mono"> {step.value}</span>}
              </li>
            ))}
          </ol>
        </details>
      ))}
      {build.undecided.length > 0 && (
        <p className="text-amber">
          <b>◆ Not decided yet:</b> {build.undecided.join(', ')}.
        </p>
      )}
    </section>
  );
}
