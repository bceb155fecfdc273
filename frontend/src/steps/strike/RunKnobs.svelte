<script lang="ts">
  // The knobs as they can be turned in a run.
  import type { Profile, Scene, Settings } from "../../lib/api/types";
  import GainControl from "../../lib/controls/GainControl.svelte";
  import type { BenchStream } from "../../lib/live/stream.svelte";
  import MoreKnobs from "../bench/MoreKnobs.svelte";
  import RangeControl from "../bench/RangeControl.svelte";

  let {
    stream,
    unit,
    settings,
    scene,
  }: { stream: BenchStream; unit: Profile; settings: Settings; scene: Scene } = $props();
</script>

<GainControl {unit} gain={settings.gain} tuning={stream.tuning} change={(gain) => stream.turn({ gain })} />
<RangeControl
  {unit}
  {settings}
  tuning={stream.tuning}
  lureRange={Math.max((stream.lureDepth ?? 0) - scene.face_depth_m, 0)}
  change={(change) => stream.turn(change)}
  kick={() => stream.send({ kick: true })}
/>
<MoreKnobs {unit} {settings} tuning={stream.tuning} change={(change) => stream.turn(change)} />
