/** Tests run as ES modules: see NODE_OPTIONS in scripts/test.mjs. */
export default {
  roots: ['<rootDir>/src', '<rootDir>/tests'],
  testMatch: ['<rootDir>/tests/**/*.test.ts'],
  extensionsToTreatAsEsm: ['.ts'],
  transform: { '^.+\\.ts$': '<rootDir>/scripts/jest-transform.mjs' },
  testTimeout: 60_000,
  // One fewer than there are processors would be one of two.
  maxWorkers: '100%',
  testSequencer: '<rootDir>/scripts/sequencer.mjs',
}
