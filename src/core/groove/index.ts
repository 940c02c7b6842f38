export {
  type Groove,
  fromSource,
  grooveShift,
  sourceOfGroove,
  grooveGrid,
  grooveHits,
  grooveOf,
  grooveText,
  parseGroove,
  grooveStepOf,
} from "./groove";
export { GROOVES } from "./shipped";
export { grooveParam } from "./param";
