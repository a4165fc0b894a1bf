import { TabStrip, type View } from '../../components/tab-strip.js';

const VIEWS: readonly View[] = [
  ['', 'Moves'],
  ['timetable', 'Timetable'],
  ['computers', 'Computers into guests'],
  ['platform', 'Change of platform'],
  ['actual', 'Planned and actual'],
];

export const MigrationViews = () => <TabStrip area="migrations" title="Migrations" views={VIEWS} />;
