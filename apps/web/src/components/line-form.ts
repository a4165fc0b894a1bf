/** A form of one line that a button opens: begun empty, gone when it was sent or is dropped. */
import type { ChangeType } from '@insel/core';
import { useState } from 'react';
import type { FieldValues } from 'react-hook-form';
import { useChangeForm, type ChangeForm, type Making } from './change-form.js';
import { useShortForm } from './kept-form.js';

export interface LineForm<T extends ChangeType, V extends FieldValues> extends ChangeForm<T, V> {
  open: boolean;
  begin: () => void;
  drop: () => void;
}

export function useLineForm<T extends ChangeType, V extends FieldValues>(
  empty: () => V,
  making: Omit<Making<T, V>, 'sent'> & Partial<Pick<Making<T, V>, 'sent'>>,
): LineForm<T, V> {
  const [open, setOpen] = useState(false);
  const kept = useShortForm(empty);
  const drop = () => setOpen(false);
  const form = useChangeForm(kept, {
    ...making,
    sent: (written) => {
      drop();
      making.sent?.(written);
    },
  });
  const begin = () => {
    kept.form.reset(empty());
    setOpen(true);
  };
  return { ...form, open, begin, drop };
}
