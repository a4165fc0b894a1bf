/** What a guest does: its role, how it is used. */
import type { ProfileView } from '@insel/contract';
import { Field } from '../../components/field.js';
import { readSize, type SizeDraft, type Set } from './size-form.js';
import { NamedSelect } from '../../components/named-select.js';

export function Purpose({
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
        <NamedSelect
          autoFocus
          value={draft.profileId}
          onChange={(event) => choose(event.target.value)}
          rows={profiles}
          none="choose a role"
        />
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
