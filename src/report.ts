/** Check reports for others: as a page, and as SARIF. */
export { htmlText, type HtmlExtras, numberedMarks, type RulePages, type SarifRun, sarifText } from './formats/index.ts'
