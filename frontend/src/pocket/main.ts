import { mount } from "svelte";
import "../app.css";
import Pocket from "./Pocket.svelte";

// For whoever holds the sheet against the program: what it is read with, and what it sums.
export { callsOf } from "./calls";
export { Sheet } from "./told";

mount(Pocket, { target: document.getElementById("sheet")! });
