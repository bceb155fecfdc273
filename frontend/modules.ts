// The page's own modules for the tests, which call them in a real browser.
export * as events from "./src/lib/events";
export * as hand from "./src/lib/hand";
export * as keys from "./src/lib/keys";
export * as limits from "./src/lib/api/limits";
export * as options from "./src/lib/controls/options";
export * as section from "./src/lib/picture/section";
export * as axis from "./src/lib/picture/axis";
export * as history from "./src/lib/picture/history";
export * as ladder from "./src/lib/picture/ladder";
export * as stream from "./src/lib/live/stream.svelte";
export * as units from "./src/lib/units";
export * as lines from "./src/steps/card/lines";
export * as known from "./src/steps/card/known";
export * as unit from "./src/steps/gear/unit";
export * as fields from "./src/steps/hole/fields";
export * as timeline from "./src/steps/strike/timeline";
export * as pings from "./src/steps/strike/pings";
