export { junitOfChecks, junitOfPlays } from './junit.ts'
export { type RulePages, type SarifRun, sarifText } from './sarif.ts'
