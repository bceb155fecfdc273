// Where the numbers on each page come from: one line for each kind of number, with the published source where there is
// one. "Common practice" is what the trade does without a source; "invented" is the program's own guess.

export interface Source {
  number: string;
  from: string;
}

const SHOWN: Source = {
  number: "Shown depth",
  from: "What the unit shows: the time until the echo is back, times the speed of sound in this water (Del Grosso and Mader 1972), halved, counted from the transducer's face.",
};
const TRUE: Source = {
  number: "True depth",
  from: "Below the water's surface in the hole. It is the shown depth and the depth of the face together, for what hangs under the hole.",
};
const CONE: Source = {
  number: "Cone",
  from: "How wide the beam is at that depth, from the full angle that its maker quotes (common practice).",
};
const RISE: Source = {
  number: "Rise line",
  from: "How high today's fish come: the middle of what they turned at and came up to, with the span in which it lies in 9 of 10 cases. Unknown before the first fish.",
};
const CHANCE: Source = {
  number: "Chance, percent",
  from: "How well each maker of a mark would fit what was touched, of all that were weighed. Measured on waters that it was not tuned on; docs/advice.md has the figures.",
};
const MENDING: Source = {
  number: "Steps of gain",
  from: "From the share of the water that is lit: speckle has an exponential intensity (Simmonds and MacLennan 2005), and your unit's profile says what a step is worth.",
};
const FISH_LENGTH: Source = {
  number: "Length of a fish",
  from: "From its echo, freed of depth and place in the cone: 19.1 log L − 0.9 log f − 62 (Love 1971). An echo swings from ping to ping, so it is a span.",
};
const FLOOR: Source = {
  number: "Lure shows from",
  from: "The least gain at which this lure lights the first colour at its depth: the sonar equation (Urick 1983) with the lure's echo (spheres after Faran 1951, plates and cylinders after Urick 1983), spreading, absorption (Francois and Garrison 1982) and your unit's own numbers.",
};
const CEILING: Source = {
  number: "Water lights at",
  from: "The gain at which the water itself begins to light: what hangs in it as volume reverberation (Urick 1983; Simmonds and MacLennan 2005), or the unit's own noise.",
};
const WIDTH: Source = {
  number: "Window, dB",
  from: "The distance from where the lure shows to where the water lights. Below nothing, no gain shows the one without the other.",
};
const SIMULATED: Source = {
  number: "What fish do",
  from: "The fish are simulated. Each number of how they behave is in docs/behaviour.md with its reason, and none is measured on real fish.",
};
const SHARES: Source = {
  number: "Shares, and the line in a bar",
  from: "Counted; the line is where the share may really be in 95 of 100 cases (Wilson 1927).",
};

export const SOURCES = {
  bench: [
    FLOOR,
    CEILING,
    WIDTH,
    TRUE,
    SHOWN,
    {
      number: "Lure's depth",
      from: "Where it hangs in the model: the line let out, and how fast the lure sinks on it.",
    },
    {
      number: "One row; marks part at",
      from: "The range over the picture's rows; and half a pulse's length in the water, closer than which two echoes are one (Simmonds and MacLennan 2005).",
    },
    CONE,
    {
      number: "Hidden in the bottom echo",
      from: "What lies between the first echo of the bottom and the bottom further out, and half a pulse more (Ona and Mitson 1996).",
    },
    RISE,
    SIMULATED,
  ],
  shelter: [
    {
      number: "Lit by others",
      from: "The share of your picture that other units light, past the rejection: their sound comes one way, straight across and by way of the bottom, out of one beam and into the other (the sonar equation, Urick 1983). What rejection keeps is counted for all of them together. The Bench's own pictures bear it out.",
    },
    {
      number: "The plan",
      from: "Every hole, beam, power, pulse, rejection and gain is weighed: no lure below its window first, then fewest disturbed, then the least that they see, then the least lag, then the fewest changes. The search is exact (branch and bound, Lawler and Wood 1966) unless it says otherwise, and takes everyone to ping as fast as their unit does.",
    },
    {
      number: "Where to set it down",
      from: "Every place and turn near the lake's best places to start at is tried with your holes: what the lines reach together counts beside what each hole is worth. How far a line reaches (5 m) and how much a mix counts is common practice; how likely it is better is worked out over what is not known of the depths. The load rule is Gold 1971, for loads that move on.",
    },
    {
      number: "Lag",
      from: "Half of the pings that rejection keeps, and one more, at the unit's rate. Differences under a quarter of a second count for nothing (common practice).",
    },
    FLOOR,
    CEILING,
  ],
  card: [
    FLOOR,
    CEILING,
    WIDTH,
    {
      number: "Gain",
      from: "Lean: the floor and a little, so that a swaying lure stays. Rich: up to where the water begins to light.",
    },
    TRUE,
    CONE,
    {
      number: "Footprint, speed of sound, loss",
      from: "Speed after Del Grosso and Mader 1972, absorption after Francois and Garrison 1982, loss 20 log r and absorption each way (Urick 1983).",
    },
    {
      number: "Ice",
      from: "Public guidance for new clear ice, from memory; authorities differ, and no ice is safe ice.",
    },
    {
      number: "±",
      from: "Two standard deviations of what the calibration leaves unsure, from the scatter of your readings.",
    },
    RISE,
  ],
  hole: [
    {
      number: "Depth, ice, hole across",
      from: "As you measured them at the hole. What you leave as it stands is a common hole.",
    },
    {
      number: "Transducer face",
      from: "Below the water's surface. What the unit shows is counted from it, so true depth is shown depth and this together.",
    },
    {
      number: "Water temperature",
      from: "It sets the speed of sound (Del Grosso and Mader 1972): 1402 m/s at 0 °C, 1447 at 10.",
    },
  ],
  gear: [
    {
      number: "Numbers of a unit's profile",
      from: "Yours as you type them. Those of a copied unit are made up to be like many: they hold together, and none is a maker's.",
    },
    {
      number: "Calibrated numbers, and ±",
      from: "A line through your readings of a jig whose echo is known (Faran 1951), as fisheries acousticians do with a standard sphere (Foote 1987). ± is two standard deviations.",
    },
    {
      number: "A lure's echo",
      from: "By its form: spheres after Faran 1951, plates and cylinders after Urick 1983.",
    },
  ],
  sheet: [CHANCE, TRUE, SHOWN, FISH_LENGTH, CONE],
  drills: [
    {
      number: "Right of how many, level, days",
      from: "Your answers, counted. A kind comes back sooner the less sure you were of it (spaced repetition; the intervals are common practice).",
    },
    SHOWN,
    FISH_LENGTH,
  ],
  recordings: [
    SHOWN,
    CHANCE,
    FISH_LENGTH,
    {
      number: "Time",
      from: "From the beginning of the recording; the date is by your own clock.",
    },
    MENDING,
  ],
  photo: [
    {
      number: "Depths, seconds",
      from: "What you say of the screen; rows and columns of the picture are shared out evenly between them.",
    },
    {
      number: "Colours",
      from: "The nearest step of the ladder in CIELAB (CIE 15), after perspective, shade and glare are taken out. What is not sure is said with the recording; how often it is right stands in docs/photo.md, for made-up photos.",
    },
    {
      number: "Corners",
      from: "Straight lines under the bend of the lens that most of them ask for (Brown 1971; Duda and Hart 1972); which four are the picture's was learned from made-up photos.",
    },
    {
      number: "A ring's film",
      from: "Found where the normals of its rims meet (Kimme, Ballard and Sklansky 1975; Halir and Flusser 1998), then the circle through the four places of its rim; from picture to picture the dial is laid on the first one (Baker and Matthews 2004). Each picture is one ping.",
    },
    MENDING,
  ],
  runs: [SHARES, SIMULATED],
  run: [
    SHOWN,
    { number: "Time", from: "Since the lure hit the water, and when a run ends at the latest." },
    SIMULATED,
  ],
  debrief: [
    {
      number: "The number at a moment",
      from: "What the hand did in the run, against where the model's fish give up, follow or let go. docs/behaviour.md has each limit.",
    },
    TRUE,
    RISE,
    SIMULATED,
  ],
  lab: [
    SHARES,
    {
      number: "What cannot be told apart",
      from: "The same fish see every pattern, so only those that took the one and not the other count (McNemar 1947).",
    },
    SIMULATED,
  ],
  ahead: [
    {
      number: "The fan's picture",
      from: "The sonar equation (Urick 1983) for every beam: a steered line of elements times each element's own pattern (Van Trees 2002), bed by Lambert's law (APL-UW TR 9407), fish by their side aspect and, from above, by Love 1971. The weak strips where two sub-arrays meet follow from the patterns.",
    },
    {
      number: "Gain: from, to",
      from: "From where lure and fish are surely seen to where one cell of open water in twenty lights up, by the same means that the picture is made of. docs/search.md has how often both hold.",
    },
    {
      number: "Along the ice, down, long",
      from: "The middle of the mark in range and angle, with the smear of beam and pulse taken out; length by Bayes' rule over aspect, from how loud it is and how long it is drawn. On 300 made-up fish the span held the length of 98 in 100.",
    },
    { number: "Paces", from: "A pace on snow, in boots, is taken for 0.75 m (common practice, no source)." },
    {
      number: "Reach for a job",
      from: "60 to 100 ft to search, 25 to 40 ft to fish: common practice, no source.",
    },
  ],
  search: [
    {
      number: "The turning picture",
      from: "The sonar equation (Urick 1983) on every bearing: the bed by Lambert's law with its kind's strength (APL-UW TR 9407), shadows by similar triangles, fish by their side aspect (Frouzova and others 2005; Kubecka 1994), absorption after Francois and Garrison 1982.",
    },
    {
      number: "Along the ice",
      from: "Pythagoras over the depth between the head and the fish. Where its depth is not known it may hang anywhere from the ice to the bottom: hence a span.",
    },
    {
      number: "What it can be, percent",
      from: "Bayes' rule over how many marks there are, how far apart, how large, whether they stay and throw a shadow; how each kind looks was counted on made-up water. docs/search.md has how often it is right.",
    },
    {
      number: "Course",
      from: "Least squares over the fixes with their errors (Bar-Shalom, Li and Kirubarajan 2001), weighed over the depths at which the school may swim. Spans hold the truth in 9 of 10 cases.",
    },
    {
      number: "Drill here, in 100",
      from: "Of the courses that the fixes leave open, those that come within sight of the hole while you fish there.",
    },
    {
      number: "Stay or go",
      from: "Schools met as molecules of an ideal gas (Hutchinson and Waser 2007), how many live here learned from what was seen, and the marginal-value rule (Charnov 1976; Gittins 1979). How many live in a lake on average, and how much places differ, is common practice without a source.",
    },
  ],
  trip: [
    {
      number: "Depth, give or take",
      from: "Between the soundings by Gaussian-process regression, which is kriging (Matheron 1963; Rasmussen and Williams 2006), with the shore as no depth. Give or take is two standard deviations. docs/ground.md says how often it held.",
    },
    {
      number: "In the band, sure or a guess",
      from: "Solid where it lies in the band with 80 percent or more, hatched from 30 percent.",
    },
    {
      number: "Edge",
      from: "Where the bed falls most steeply on its way down, one in ten and more.",
    },
    {
      number: "Starting depths, worth of a place",
      from: "Common practice, no source: a table you can change, and how much edge, structure and rest count. Your own log goes before it.",
    },
    {
      number: "The walk",
      from: "The round worth most in the day, exact for up to 14 places (Held and Karp 1962). How fast people walk and drill is common practice, no source.",
    },
    {
      number: "Bearings, positions",
      from: "By the geodesic on WGS 84 (Karney 2013), degrees from true north: your compass may point elsewhere.",
    },
    {
      number: "Sun",
      from: "NOAA's solar calculator (Meeus 1998). Dark is from civil dusk on, the sun six degrees down.",
    },
    {
      number: "Hours of a battery",
      from: "Peukert 1897, and what cold and age leave of the capacity by handbook curves (Reddy 2011), from memory: so it is a span.",
    },
    {
      number: "Ice",
      from: "As it was measured and when. Public guidance for new clear ice, from memory; no ice is safe ice.",
    },
  ],
  strike: [
    RISE,
    {
      number: "Shares of touches",
      from: "Your own touches of today, counted, with where they may really be (Wilson 1927).",
    },
  ],
  log: [
    {
      number: "Hours of one line",
      from: "Lines in to lines out, times the lines; also those without a fish. A stay that nobody ended is taken to have lasted a quarter of an hour past its last note.",
    },
    {
      number: "An hour, and its span",
      from: "Counts are Poisson in their hours; holes differ by a gamma factor, days, waters and each factor's levels are pulled together as far as your own log says that they are alike (gamma-Poisson with partial pooling). The span holds the truth in 9 of 10 cases; docs/patterns.md has how that was measured.",
    },
    {
      number: "Better or worse, percent",
      from: "How probable it is that a thing brings more than what else you use, at your usual mix of everything, against an even chance that it does not matter at all. Said from 90 percent on, never of what is tangled.",
    },
    {
      number: "Of those that looked, how many bit",
      from: "Beta-binomial: fish of one stay answer alike, so twenty looks there count for fewer than twenty (Williams 1975).",
    },
    {
      number: "Whether pressure decides how high",
      from: "Each fish against its own hole's mean, then days against days by the analysis of variance (Fisher 1925). Pressure's trend is its change over three hours (WMO-No. 8); that under 1 hPa is steady is common practice.",
    },
    {
      number: "Elsewhere",
      from: "Places of the same depth, fall of the bed, structure and bottom as those on your log, by the same reckoning. A log says where you fished, not where fish are.",
    },
    {
      number: "Depth of a strike",
      from: "Where the lure hung when the hook went in, below the water's surface.",
    },
    {
      number: "Gain and range",
      from: "As the unit was set at that moment, in its own numbers.",
    },
  ],
} as const satisfies Record<string, readonly Source[]>;

export type Page = keyof typeof SOURCES;
