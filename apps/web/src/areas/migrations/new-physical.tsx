/** A computer that becomes a guest, or a guest that goes onto a computer. */
import { useSearchParams } from 'react-router';
import { FromComputer } from './from-computer.js';
import { OntoComputer } from './onto-computer.js';

export function NewPhysical() {
  const [search] = useSearchParams();
  const onto = search.get('onto');
  return onto === null ? <FromComputer key="from" /> : <OntoComputer key="onto" deviceId={onto} />;
}
