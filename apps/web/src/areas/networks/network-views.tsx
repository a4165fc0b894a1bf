import { TabStrip, type View } from '../../components/tab-strip.js';

const VIEWS: readonly View[] = [
  ['', 'Subnets'],
  ['patch', 'Patch table'],
  ['reach', 'Reach'],
  ['matrix', 'Matrix'],
  ['plan', 'Divide a subnet'],
  ['switches', 'Switches'],
  ['devices', 'Equipment'],
  ['names', 'Names'],
  ['list', 'Take a list in'],
];

export const NetworkViews = () => <TabStrip area="networks" title="Networks" views={VIEWS} />;
