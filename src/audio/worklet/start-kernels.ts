import program from "../../../build/kernels.wasm";
import { compileLoops } from "../synth/kernels/kernels";

// Before all else of the audio thread's program: what is made later lies where the compiled loops reach it.
compileLoops(program);
