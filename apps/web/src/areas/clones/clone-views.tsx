import { TabStrip, type View } from '../../components/tab-strip.js';

const VIEWS: readonly View[] = [
  ['', 'Identity'],
  ['templates', 'Templates'],
  ['lineage', 'Lineage'],
  ['licences', 'Licences'],
];

export const CloneViews = () => <TabStrip area="clones" title="Clones" views={VIEWS} />;
