<script lang="ts">
  // What can be turned, by tab: gain, hand and range; the picture; the water; practice.
  import type { LureFields, PictureKind, Profile, Scene, Settings } from "../../lib/api/types";
  import GainControl from "../../lib/controls/GainControl.svelte";
  import type { Hand } from "../../lib/live/hand.svelte";
  import type { BenchStream } from "../../lib/live/stream.svelte";
  import HandPanel from "./HandPanel.svelte";
  import MoreKnobs from "./MoreKnobs.svelte";
  import PicturePanel from "./PicturePanel.svelte";
  import PracticePanel from "./PracticePanel.svelte";
  import RangeControl from "./RangeControl.svelte";
  import type { Panel } from "../../lib/panels";
  import WaterPanel from "./WaterPanel.svelte";

  let {
    tab,
    stream,
    settings,
    scene,
    unit,
    lure,
    hand,
    views,
    blind,
    held,
    pings,
    hold,
  }: {
    tab: Panel<"bench">;
    stream: BenchStream;
    settings: Settings;
    scene: Scene;
    unit: Profile;
    lure: LureFields;
    hand: Hand;
    views: readonly PictureKind[];
    /** Whether an exercise keeps the truth back until its aim is met. */
    blind: boolean;
    held: number | null;
    pings: number;
    hold: (back: number | null) => void;
  } = $props();
</script>

{#if tab === "Tune"}
  <GainControl {unit} gain={settings.gain} tuning={stream.tuning} change={(gain) => stream.turn({ gain })} />
  <HandPanel {stream} {hand} {scene} {lure} {blind} />
  <RangeControl
    {unit}
    {settings}
    tuning={blind ? null : stream.tuning}
    lureRange={Math.max((stream.lureDepth ?? 0) - scene.face_depth_m, 0)}
    change={(change) => stream.turn(change)}
    kick={() => stream.send({ kick: true })}
  />
  <MoreKnobs
    {unit}
    {settings}
    tuning={blind ? null : stream.tuning}
    change={(change) => stream.turn(change)}
  />
{:else if tab === "Picture"}
  <PicturePanel
    {unit}
    {settings}
    tuning={stream.tuning}
    {views}
    {held}
    {pings}
    change={(change) => stream.turn(change)}
    {hold}
  />
{:else if tab === "Water"}
  <WaterPanel {scene} {blind} change={(change) => stream.change(change)} />
{:else}
  <PracticePanel {stream} />
{/if}
