import { Hatching } from '../../components/hatching.js';

/** The hatching of what is kept free on purpose; once a page. */
export const Wash = () => (
  <svg width="0" height="0" className="absolute" aria-hidden>
    <defs>
      <Hatching id="wash" />
    </defs>
  </svg>
);
