import "@fontsource-variable/atkinson-hyperlegible-next/wght.css";
import "@fontsource-variable/jetbrains-mono/wght.css";
import { mount } from "svelte";
import "../app.css";
import Crew from "./Crew.svelte";

export default mount(Crew, { target: document.getElementById("app")! });
