/** From "a machine that does X for N people" to a guest that fits: role and load, size, place, devices, names, then the plan. */
import type { ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { useMayPlan } from '../../client/session.js';
import { Making } from '../../components/area.js';
import { useSettled } from '../../components/use-settled.js';
import { useChangeForm } from '../../components/change-form.js';
import { Consequences } from '../../components/consequences.js';
import { Sending } from '../../components/sending.js';
import { useKeptForm } from '../../components/kept-form.js';
import { NamedSelect } from '../../components/named-select.js';
import { Field } from '../../components/field.js';
import { EMPTY_SIZE, readSize, sizePlan, sizeQuestion, type SizeDraft } from './size-form.js';
import { Places } from './size-places.js';
import { useRead } from '../../client/read.js';
import { Purpose } from './size-purpose.js';
import { SizeTable } from './size-table.js';
import { Neighbours } from './size-neighbours.js';
import { Devices, StepsBrief } from './size-devices.js';

export function SizePage() {
  const go = useNavigate();
  const mayPlan = useMayPlan();
  const kept = useKeptForm<SizeDraft>('guest-size', () => EMPTY_SIZE);
  const { values: draft, set, held, ticked } = kept;
  const profiles = useRead('profiles').data ?? [];
  const networks = useRead('networks', { take: 200 }).data?.rows ?? [];
  const media = useRead('media').data ?? [];
  const profile = profiles.find((found) => found.id === draft.profileId);
  const networkIdsOf = (typed: SizeDraft) =>
    Array.from({ length: profile?.adapters ?? 0 }, (_, i) => typed.networkIds[i] ?? '');
  const networkIds = networkIdsOf(draft);
  const question = sizeQuestion(draft, profile, networkIds);
  const sized = useRead('guestSize', useSettled(question), { keep: true, once: true });
  const answer = sized.data;
  const fault = question ? sized.error : null;
  const medium = media.find((found) => found.id === draft.mediumId);
  const install = medium && (medium.install === 'network' ? 'network' : 'full');
  const planOf = (typed: SizeDraft) =>
    sizePlan(typed, profile, answer, networkIdsOf(typed), install ?? null);
  const form = useChangeForm(kept, {
    type: 'guest.plan',
    read: (typed) => {
      const plan = planOf(typed);
      const unread = Object.entries(readSize(typed).faults);
      if (plan || unread.length > 0) return [plan ?? {}, Object.fromEntries(unread)];
      return typed.name.trim()
        ? [{}, { hostId: 'No host is known that it could go to.' }]
        : [{}, { name: 'Give it a name.' }];
    },
    typedIn: { mediumIds: 'mediumId' },
    previews: () => true,
    sent: ({ subjects }) => void go(`/guests/${subjects[0]!.id}/build`),
  });
  const { preview, errors } = form;
  return (
    <Making
      title="Size a guest"
      consequences={
        <>
          {answer && (
            <p className="mb-3 border-b border-ink pb-2 font-bold">{answer.suggested.sentence}</p>
          )}
          {fault && <p className="text-signal">{fault.message}</p>}
          {planOf(draft) ? (
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
                {errors.hostId && <p className="font-bold text-signal">{errors.hostId}</p>}
                <label className="mt-1 flex items-center gap-2">
                  <input type="checkbox" {...ticked('thin')} /> Its volumes grow later (thin),
                  instead of being allocated now
                </label>
              </Section>
              <Section title="Devices">
                <Devices draft={draft} set={set} answer={answer} />
              </Section>
              <Section title="Name and medium">
                <div className="grid grid-cols-3 gap-3">
                  <Field label="Name" of={held('name')}>
                    <input />
                  </Field>
                  <Field label="Purpose" of={held('purpose')}>
                    <input />
                  </Field>
                  <Field label="Owner" of={held('owner')}>
                    <input />
                  </Field>
                  <Field
                    label="Installed from"
                    of={held('mediumId')}
                    hint={
                      medium?.newer
                        ? `◆ ${medium.newer.name} is newer`
                        : medium?.install === 'network'
                          ? 'needs gateway and name server while it installs'
                          : undefined
                    }
                  >
                    <NamedSelect
                      none="nothing yet"
                      rows={media.filter(
                        ({ family, install }) => family === profile.family && install !== 'drivers',
                      )}
                    />
                  </Field>
                </div>
              </Section>
              {mayPlan && (
                <Sending label="Plan the guest" form={form} placed={/^(adapters\.\d+\.|hostId$)/} />
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
