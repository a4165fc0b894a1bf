/** A form of one line that a button opens: begun empty, gone when it was sent or is dropped. */
import type { ChangeType } from '@insel/core';
import { useState } from 'react';
import type { FieldValues } from 'react-hook-form';
import { useChangeForm, type ChangeForm, type ChangeFormOptions } from './change-form.js';
import { useShortForm } from './kept-form.js';

export interface LineForm<V extends FieldValues> extends ChangeForm<V> {
  open: boolean;
  begin: () => void;
  drop: () => void;
}

export function useLineForm<T extends ChangeType, V extends FieldValues>(
  empty: () => V,
  how: Omit<ChangeFormOptions<T, V>, 'sent'> & Partial<Pick<ChangeFormOptions<T, V>, 'sent'>>,
): LineForm<V> {
  const [open, setOpen] = useState(false);
  const kept = useShortForm(empty);
  const drop = () => setOpen(false);
  const form = useChangeForm(kept, {
    ...how,
    sent: (written) => {
      drop();
      how.sent?.(written);
    },
  });
  const begin = () => {
    kept.form.reset(empty());
    setOpen(true);
  };
  return { ...form, open, begin, drop };
}
