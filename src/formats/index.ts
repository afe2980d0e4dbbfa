export { htmlText, type HtmlExtras, numberedMarks } from './html.ts'
export { junitOfChecks, junitOfPlays } from './junit.ts'
export { type RulePages, type SarifRun, sarifText } from './sarif.ts'
