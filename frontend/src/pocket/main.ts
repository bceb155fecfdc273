import { mount } from "svelte";
import "../app.css";
import Pocket from "./Pocket.svelte";

export default mount(Pocket, { target: document.getElementById("sheet")! });
