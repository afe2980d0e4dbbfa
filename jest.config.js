/** Tests run as ES modules: see NODE_OPTIONS in scripts/test.mjs. */
export default {
  roots: ['<rootDir>/src', '<rootDir>/tests'],
  testMatch: ['<rootDir>/tests/**/*.test.ts'],
  extensionsToTreatAsEsm: ['.ts'],
  transform: { '^.+\\.ts$': ['@swc/jest', { jsc: { target: 'es2022', parser: { syntax: 'typescript' } } }] },
  testTimeout: 60_000,
  // One fewer than there are processors would be one of two.
  maxWorkers: '100%',
  testSequencer: '<rootDir>/scripts/sequencer.mjs',
}
