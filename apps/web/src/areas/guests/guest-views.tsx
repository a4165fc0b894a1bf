import { TabStrip, type View } from '../../components/tab-strip.js';

const VIEWS: readonly View[] = [
  ['', 'Guests'],
  ['size', 'Size a guest'],
  ['start-order', 'Start order'],
  ['shut-down', 'Shutdown'],
  ['media', 'Media shelf'],
  ['pools', 'Pools'],
  ['roles', 'Roles and groups'],
  ['samples', 'Measured use'],
  ['table', 'From a table'],
];

export const GuestViews = () => <TabStrip area="guests" title="Guests" views={VIEWS} />;
