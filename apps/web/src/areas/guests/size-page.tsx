/** From "a machine that does X for N people" to a guest that fits: role and load, size, place, devices, names, then the plan. */
import { useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { useDraft } from '../../frame/draft.js';
import { useMayPlan } from '../../frame/session.js';
import { useChange } from '../../frame/change.js';
import { Making } from '../../components/area.js';
import { useSettled } from '../../components/use-settled.js';
import { Consequences, usePreview } from '../../components/consequences.js';
import { Sending } from '../../components/sending.js';
import { errorsOf, Field } from '../../components/field.js';
import { EMPTY_SIZE, sizePlan, sizeQuestion, type SizeDraft } from './size-form.js';
import { Places } from './size-places.js';
import { useRead } from '../../frame/read.js';
import { Purpose } from './size-purpose.js';
import { SizeTable } from './size-table.js';
import { Neighbours } from './size-neighbours.js';
import { Devices, StepsBrief } from './size-devices.js';

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
              {mayPlan && (
                <Sending
                  label="Plan the guest"
                  busy={busy}
                  problem={problem}
                  preview={preview}
                  said={draft}
                  set={set}
                  onSend={() => send()}
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
