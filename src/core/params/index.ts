export { type Problem, TOLD, firstProblems, problemsOf } from "./check";
export { type PatternStep, RHYTHM, formatSteps, parseSteps } from "./step-pattern";
export {
  type Params,
  type ParamValue,
  type ParamMeta,
  closed,
  isShown,
  params,
  param,
} from "./param";
export { inRange, oneOf, wholeIn } from "./ranges";
