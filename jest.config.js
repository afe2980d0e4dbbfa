/** Tests run as ES modules: see NODE_OPTIONS in scripts/test.mjs. */
export default {
  roots: ['<rootDir>/src', '<rootDir>/tests'],
  testMatch: ['<rootDir>/tests/**/*.test.ts'],
  extensionsToTreatAsEsm: ['.ts'],
  transform: { '^.+\\.[jt]s$': '<rootDir>/scripts/jest-transform.mjs' },
  // What computes much of what comes in packages.
  transformIgnorePatterns: ['/node_modules/(?!(?:flatbush|flatqueue|robust-predicates|yaml|zod)/)'],
  testTimeout: 60_000,
  // One fewer than there are processors would be one of two.
  maxWorkers: '100%',
  testSequencer: '<rootDir>/scripts/sequencer.mjs',
}
