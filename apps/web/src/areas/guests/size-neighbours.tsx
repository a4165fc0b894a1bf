/** Networks of a guest that is sized, and guests that it stands apart from or together with. */
import type { NetworkListRow, ProfileView, SizeAnswer } from '@insel/contract';
import { Field } from '../../components/field.js';
import type { SizeDraft, Set } from './size-form.js';
import { useRead } from '../../client/read.js';
import { NamedSelect } from '../../components/named-select.js';

export function Neighbours({
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
          <Field
            label="Address"
            error={errors[`adapters.${i}.address.ip`] ?? errors[`adapters.${i}.ip`]}
          >
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
          <NamedSelect
            value={draft.groupId}
            onChange={(event) => set({ groupId: event.target.value })}
            rows={groups}
            none="none"
          />
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
