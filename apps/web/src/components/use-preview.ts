import type { Preview } from '@insel/contract';
import type { ChangeType, Input } from '@insel/core';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { previewOf } from '../client/change.js';
import { useStandpoint } from '../client/standpoint.js';
import { useSettled } from './use-settled.js';

/** Asks the server what a change would do while it is being typed; null while the form is not complete. */
export function usePreview<T extends ChangeType>(
  type: T,
  input: Input<T> | null,
): Preview | undefined {
  const settled = useSettled(input);
  const { data } = useQuery({
    queryKey: ['preview', type, settled, useStandpoint()],
    queryFn: () => previewOf(type, settled!),
    enabled: settled !== null,
    retry: false,
    placeholderData: keepPreviousData,
  });
  return input ? data : undefined;
}
