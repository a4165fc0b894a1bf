import { defineConfig } from '@playwright/test';
import main from './playwright.config.js';

/** `npm run screenshots`: one picture of each main view, from the demo on a fixed clock. */
export default defineConfig({
  ...main,
  testMatch: 'pictures.shots.ts',
  workers: 1,
  reporter: 'list',
});
