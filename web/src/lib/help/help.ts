/** What stands behind each figure: what it is, how it is computed, where from, and how sure it is. */

export interface Entry {
	title: string;
	what: string;
	how: string;
	source: string;
	sure: string;
}

export const help = {
	impedance: {
		title: 'R and X',
		what: 'The resistance and reactance seen at the plane where you swept. R takes power; X only swings it to and fro. A coil in line cancels capacitive (negative) X.',
		how: 'From the Γ in the file and its reference. Between samples a cubic spline of Γ is read, because Γ stays smooth where Z has a pole.',
		source: 'Pozar, Microwave Engineering, 4th ed., §2.3.',
		sure: 'As sure as the calibration at that plane. With fewer than 24 samples what lies between the dots is a guess.'
	},
	swr: {
		title: 'SWR against 50 Ω',
		what: 'How far from 50 Ω it is, as the ratio of crest to trough on a lossless line: 1 is a match, 2 sends 11 % back, 3 a quarter.',
		how: '(1 + |Γ|)/(1 − |Γ|), at the lowest point of the curve between the samples, not at the nearest sample.',
		source: 'Pozar, §2.3; check values: 1.5 is 14.0 dB of return loss, 2 is 9.54, 3 is 6.02.',
		sure: 'High SWR is read poorly: near the rim of the chart a small error of Γ is a large one of SWR.'
	},
	gamma: {
		title: 'Chart of Γ',
		what: 'Every impedance as a point: 50 Ω in the middle, a short at the left, an open at the right, inductive above, capacitive below. The dashed circle is your limit.',
		how: 'Γ = (Z − 50)/(Z + 50), drawn to scale. A part moves the point along an arc of its own.',
		source: 'Pozar, §2.4.',
		sure: 'As sure as the sweep.'
	},
	reading: {
		title: 'What the sweep says',
		what: 'Resonances are where X passes zero. Q says how quickly the match is lost beside its centre: 10 is middling, 30 is sharp.',
		how: "Zero crossings of X by bisection; the run round the lowest SWR inside the limit; Q = ω/(2R)·√(R'² + (X' + |X|/ω)²) from a parabola over 2.5 % to either side.",
		source: 'Yaghjian and Best, IEEE Trans. Antennas and Propagation 53(4), 2005, eq. (96).',
		sure: 'Q holds for one resonance at a time, not for traps or two close dips.'
	},
	floor: {
		title: 'The floor',
		what: 'The lowest worst SWR that any match without loss could hold over this whole band, however many parts it had. Your design cannot lie below it without burning power.',
		how: "From the antenna's Q at the middle of the band and the band's width B: BQ = π/ln(1/Γ) for any network, 2√Γ/(1 − Γ) for one more tuned circuit, 2Γ/(1 − Γ²) for the antenna tuned alone.",
		source:
			'Fano, J. Franklin Institute 249, 1950; Lopez, IEEE Antennas and Propagation Magazine 46(4), 2004.',
		sure: 'Holds for an antenna that is one resonance with steady R. Loss in parts lets a curve dip below it, at the price of heat.'
	},
	yield: {
		title: 'Yield',
		what: 'Of a hundred people who make these two parts as well as people do, so many find every band inside its limit.',
		how: 'A few thousand builds on the computer: each part strays by its spread (two thirds within half of it), by scrambled Sobol sequences; the SWR is judged below the last part made by hand. The second figure lets the sweep be wrong too.',
		source:
			'Owen, J. Complexity 14, 1998, for the sampling; spreads of coils and coax are common practice.',
		sure: 'The ± is the sampling alone. How well you wind is yours to say: tick “measured” once you have swept the part.'
	},
	ways: {
		title: 'Every way to match, as you can make it',
		what: 'Networks of up to three parts, ununs, sections and stubs of coax, each with whole half-turns, sold values and coax to the centimetre. The front holds what nothing else beats in worst SWR, loss and number of parts at once.',
		how: 'Each topology at its best with parts of any value, from its closed forms and from many random starts; then every combination of parts near that, judged at 41 frequencies of each band. Parts that would not stand the volts or the heat are left out; of equals the smaller one is shown, then the cheaper. Builds are counted for the front alone.',
		source:
			'Pozar, Microwave Engineering, ch. 5; Bowick, RF Circuit Design, ch. 4; Regier, QST, July 1978 (the last two from memory).',
		sure: 'In small drawers nothing that was left out beats the front: the tests try every combination. In large ones what lies far from the best values is not looked at. The loss of ferrite rests on its data, ±20 %.'
	},
	candidates: {
		title: 'Ways to match',
		what: 'Every L of two parts that matches this wire, each at its own best over the bands: the least worst SWR, not the match at the middle.',
		how: 'Closed forms at the centre, then a grid and a simplex search over both values, with the loss and own capacitance of parts as they would be made.',
		source: 'Pozar, §5.1; Nelder and Mead, Computer Journal 7, 1965.',
		sure: 'The search is checked against a fine grid in the tests. Heat is in the parts, at the centre, at full power.'
	},
	parts: {
		title: 'Making the parts',
		what: 'Turns, former and wire for what an analyser reads of the coil on the band; the length of open coax that acts as the capacitor there.',
		how: "Current sheet with Nagaoka's coefficient, Rosa's corrections for round wire, crowding of thick wire, own capacitance; coax by tan(βl)/Z0 with its end.",
		source:
			'Lundin, Proc. IEEE 73, 1985; Rosa and Grover, NBS Bulletin 8, 1911; Wheeler, Proc. IRE 30, 1942, for the cable.',
		sure: '±4 % as wound by hand (common practice): wind a turn long, sweep it, and squeeze or spread.'
	},
	drop: {
		title: 'The antenna system',
		what: 'What is seen looking up from each place, and where the watts go: the ribbon is as wide as the watts in it, and heat branches off.',
		how: 'A cascade of complex sums from the wire down; watts from real parts of V·I*, so that what goes in is what comes out plus every loss.',
		source: 'Pozar, §4.4; the balance is held to a part in 10⁹ by a test.',
		sure: '“Into the wire” is not “radiated”: a sweep cannot tell what the ground takes.'
	},
	coax: {
		title: 'Another coax',
		what: 'The same length of each kind of coax in place of yours: what it turns to heat and what the radio would read.',
		how: 'The whole cascade anew with each cable; loss from the ratio of real powers with this load.',
		source:
			"Nominal cables from memory: loss ±10 %, velocity ±2 %; Wheeler 1942 for the skin effect's reactance.",
		sure: 'Better coax shows the worse SWR: loss hides a mismatch, it does not mend it.'
	},
	predict: {
		title: 'Where the watts go',
		what: 'Each band in its middle: the ribbon is as wide as the watts in it, from the radio at the left to the sky at the right. What branches off turns to heat. All of it sums to the power put in.',
		how: 'The cascade of the design at the power set; the line matched and by its SWR apart; a modelled wire by its solution. The range: 512 builds with everything off as far as such things are, the tuner set anew for each.',
		source:
			'Pozar, Microwave Engineering, §2.7 and §4.4. Spreads: common practice; Q of parts ±20 % (memory).',
		sure: 'Of a thousand simulated builds with errors of another kind, 88 to 92 in a hundred lay inside. What the radio gives into a mismatch, and what flows outside the coax, is not known here.'
	},
	choose: {
		title: 'Schools compared',
		what: 'Every school that fits the place, drawn to one scale: how many watts go up on each band, what SWR the radio would see without a tuner, what it takes.',
		how: 'Wires by the moment method with few segments, brought to the lowest band (two-band kinds to both); the transformer, section and coax that usually stand below; a usual tuner where SWR is over 3, or over the limit.',
		source:
			'docs/wires.md; lines and rings as on Predict. Usual windings: common practice. Q of coils and traps 200 ±30 % (memory).',
		sure: 'The range holds what height, soil, radials, Q and the line leave open. Other loads, noise and neighbours are not in it. What you plan is solved in full.'
	},
	'any-length': {
		title: 'Lengths that fit',
		what: 'A wire fed at its end shows kilohms wherever it is a multiple of half a wave: no tuner behind 9 : 1 likes that. Each bar is where some frequency of a band makes it one; between the bars lie windows.',
		how: 'Practice: n times 468 ft over the megahertz. The long-wire rule: 492 ft times n − 0.05, since the ends count once. The model: the wire solved where it hangs, every length from one elimination, its crests of R. The shades are the worst SWR of a band behind 9 : 1.',
		source:
			'Common practice; a handbook’s long-wire rule (memory); moment method, docs/wires.md; LDLᵀ of leading parts: Golub & Van Loan §4.1.',
		sure: 'At many half-waves the rules part: 135 ft is clear of 10 m by the first and eight half-waves by the others. Trees and gutters are in none of them; the counterpoise is a length too.'
	},
	turning: {
		title: 'Turning by the chart',
		what: 'On the chart each knob moves the point along an arc of its own: one sees which one leads to the middle. By SWR alone a bad match is off the scale and nothing shows; return loss tells at least which way is better.',
		how: 'From the sweeps and the dials as you read them: the load, and how far each dial is off, the same at every turn. Every turn of one, two or three knobs that would match is weighed by what the dials may still err.',
		source:
			'Least squares with a prior of 8 % for each dial; settings in closed form (Pozar, §5.1).',
		sure: 'From a thousand random beginnings half were matched in 3 turns and nine in ten in 5, dials 5 to 20 % off. Read the dials in pF and µH; your tuner’s numbers may need a table.'
	},
	ends: {
		title: 'The two ends of a line',
		what: 'Loss hides SWR: what comes back passes the line twice. Behind 1 dB a reading of 2 : 1 is 2.45 at the antenna.',
		how: '|Γ| at the radio is that at the load less twice the matched loss; total loss 10·log[(a² − |Γ|²)/(a(1 − |Γ|²))], a = 10^(matched/10), Γ at the load.',
		source: 'Handbook formula; practice reads 2.4 to 2.5 and 0.3 dB off the published chart.',
		sure: "Against the line's own impedance, taken as real. A cable's loss by class is ±10 % (memory)."
	},
	readings: {
		title: 'Two readings of one antenna',
		what: 'Better coax shows the worse SWR. How much of a difference between two readings is loss, and whether length and impedance can be the rest.',
		how: 'Return loss differs by twice the difference of matched loss. The range: every step between impedances, each ±2 % of its class, at any length.',
		source: 'Pozar, Microwave Engineering, §2.3.',
		sure: 'Two meters differ by a twentieth (practice): within that nothing is told. The range is a bound.'
	},
	tuner: {
		title: 'A tuner',
		what: 'Two capacitors and a coil that make 50 Ω of what the line shows. A C-L-C tuner has many settings for one load; they differ in loss and in volts.',
		how: 'Every setting in closed form with the loss of its parts; of those within its stops the one with the least loss is taken for each band. Fairest over the band: the least of the worst SWR.',
		source:
			'Pozar, §5.1, with the Q of each part; checked against a search through all of its range.',
		sure: 'Stops and Q are those of a usual tuner (memory) until you set yours. Stray capacitance is left out.'
	},
	conjugate: {
		title: 'Looking both ways',
		what: 'At each place one can look up, towards the wire, and down, towards the radio as 50 Ω. Where nothing between is lost and all is tuned, one is the mirror image of the other: the same R, the opposite X.',
		how: 'The cascade from either end; reflected power from |Γ|² against 50 Ω.',
		source: 'Everitt, Communication Engineering (the conjugate theorem; exact only without loss).',
		sure: 'A radio is not exactly 50 Ω looked into; then the downward figures are those of the 50 Ω that it is made for.'
	},
	doubt: {
		title: 'How sure this is',
		what: 'The shaded band holds the true value nine times out of ten: what noise, the standards and drift since calibrating leave open. Without a calibration there is none, because nobody knows.',
		how: 'Noise from the scatter between passes; each standard’s spread through the calibration, whose small errors are a quadratic in Γ; drift with the hours since. R and X to first order.',
		source:
			'Three-term one-port model: Pozar, Microwave Engineering, 4th ed., §4.3. Spreads of standards and drift: practice and memory.',
		sure: 'Over 2,000 simulated instruments 89 to 92 of a hundred true values lay inside. A load worse than its 1 % moves every impedance by as much.'
	},
	residual: {
		title: 'Load check: the residual',
		what: 'The load swept once more after calibrating: how well the same thing repeats. It cannot see an error of the load itself.',
		how: 'Root mean square of |Γ| of the corrected load against what the load is, in dB. An impedance is uncertain by 2δ/|1 − Γ²|.',
		source: 'From Z = 50(1 + Γ)/(1 − Γ), differentiated.',
		sure: 'Below −50 dB is as good as usual loads; above −35 dB something moved.'
	},
	plane: {
		title: 'Moving the plane',
		what: 'What you swept in the shack, carried through the line to the feedpoint, or the other way. The band holds the true value nine times out of ten, for how well the line is known.',
		how: 'The line’s complex impedance and propagation; 512 lines drawn from its doubts, and the 5 % and 95 % points of R, X and SWR.',
		source: 'Pozar, §2.3; Wheeler, Proc. IRE 30, 1942, for the skin effect’s reactance.',
		sure: 'The inverse magnifies errors. Where the band is wider than an eighth of the chart it says that it does not know.'
	},
	ceiling: {
		title: 'The most this line can show',
		what: 'Behind a lossy line even an open or a short reads as a moderate SWR. Above this edge nothing can be read, whatever hangs up there.',
		how: 'Return loss is at least twice the matched loss; carried over to 50 Ω for other lines.',
		source: 'Handbook rule; 1 dB gives 8.72, 3 dB 3.01.',
		sure: 'As sure as the loss of the line.'
	},
	lengths: {
		title: 'Lengths',
		what: 'What each school says of the same piece, and how far found lengths stray from it. None knows your height, your trees, or the covering of your wire.',
		how: 'A constant over the frequency; where the school says so, times the velocity on the wire: 0.95 bare, 0.92 covered.',
		source:
			'468, 234, 585 and 1005 feet over megahertz: common practice. Thin wires computed by moment methods (Harrington, 1968). Covered wire: Richmond and Newman, Radio Science 11, 1976.',
		sure: 'Dips are found from 6 % below to 3 % above what the practised rules promise. Cut long, fold, then cut.'
	},
	trim: {
		title: 'The next cut',
		what: 'How much to take off each leg, and where that should put the dip, with bounds that hold nine times out of ten.',
		how: 'Length times frequency is constant; the first fold takes the sum, the first cut 85 % of it. From the second reading on, what a centimetre cut or folded really moved is fitted, pulled towards the rule as far as it is not known yet. A cut stays short of the target nine times out of ten.',
		source:
			'The sum and the cautions: common practice. The fit: least squares with a prior (Gelman and others, Bayesian Data Analysis, §14.8).',
		sure: 'Dips repeat to 0.1 to 0.2 % at best. In two hundred simulated lofts 99 % ended within 0.3 % of the target after three rounds or fewer.'
	},
	line: {
		title: 'Know your line',
		what: 'Two sweeps, its far end open and then shorted, show impedance, electrical length and loss. With a tape they give velocity and loss a metre.',
		how: 'One model of the line fitted to both sweeps together, with a constant tracking error beside it; errors by leaving out an eighth of the range at a time.',
		source: 'Wheeler, Proc. IRE 30, 1942; Efron and Tibshirani, ch. 11.',
		sure: 'A load 1 % off makes the impedance 1 % off, and no sweep of the line can tell. Sweep as far up as you can.'
	},
	joins: {
		title: 'What joins where',
		what: 'Every wire as a bar from its start to its end, and the places where ends meet. Mark every start before you wind: with a knot, or a ring of tape.',
		how: 'The start is the end that goes into the ring first. All wires go through the hole from the front, so start and end say the direction; joined the wrong way round two halves cancel.',
		source: 'Common practice; the joints follow from the same voltage on every turn (Faraday).',
		sure: 'Sure. What people get wrong is which end is which: check with a continuity tester.'
	},
	characterise: {
		title: 'Characterise what you hold',
		what: 'The permeability of a ring nobody knows, with its limits; the mix it is most like and the runner-up, or none. Or L, C, Q and self-resonance of a part alone.',
		how: 'Z over N², the capacitance across the winding and its leads taken off as far as two windings tell them; each point with what calibration, noise and the stray parts leave. Mixes are weighed with their scale free by 20 %.',
		source:
			'Z/N² = jω·μ0·(μ′ − jμ″)·Ae/le (IEC 60205). Strays of 1.5 ± 1 pF and 12 ± 10 nH are ranges from memory.',
		sure: 'In fifty simulated rings of each of four mixes all were recognised, an unknown one was called unknown, and the limits held the truth in 93 % or more of the points. Calibrated to 60 dB that is 5 % up to some megahertz.'
	},
	'wire-fit': {
		title: 'The model against a sweep',
		what: 'The planned antenna brought onto a sweep taken at its feedpoint: which of its numbers must be otherwise, by how much and how sure; what the sweep cannot tell, and which reading would. Taken, the desk reckons with the antenna as it hangs; Undo takes it back.',
		how: 'Length, height, covering, ground, radials, traps and the coil may each be off by what such things usually are; the wires are solved anew at every step until the curve fits within what the calibration leaves.',
		source:
			'Damped Gauss and Newton on the deviates (Gelman et al., Bayesian Data Analysis, ch. 4).',
		sure: 'Tried on seeded sites with another error than it assumes, the ranges held the truth at least as often as they say. What stands near a wire lengthens it: the length found is the one that it acts as.'
	},
	loss: {
		title: 'Too good to be true',
		what: 'How many of 100 W that go in become heat in joints, line, transformer, coils, wires and radials, by the sweep and by what is planned. Where the sweep asks for more loss than the plan has, what it looks like; things that look alike are named together, and the measurement that parts them. A low SWR or a wide curve is no proof of a good antenna.',
		how: 'The planned antenna, as far off as such things hang, behind the line, match and transformer that are known, is fitted to the sweep alone; then with one thing more that takes power. Each is weighed; a thing is blamed only where nothing honest is left, below one in a hundred. What soil reflects poorly is shown, and not counted as lost.',
		source:
			'Evidence by the method of Laplace (MacKay, Information Theory, Inference, and Learning Algorithms, 2003, ch. 27 and 28).',
		sure: 'Tried on fifteen simulated installations of twenty seeds each, hung otherwise and misread in another way than it assumes; tests have the table. Two faults at once are told as one, and how often each fault is met is from memory.'
	},
	'as-built': {
		title: 'The design as it was built',
		what: 'A sweep of the finished match laid on its prediction: which part came out otherwise and by how much, or that the curve cannot tell. A turn and a few picofarads can look alike; then both are said, and the one reading more that would part them.',
		how: 'Every part may stray as its tolerance says and the antenna’s own sweep may be misread, smoothly over frequency; besides, one part may be a turn off or cut 5 mm beside the mark. Each of these is fitted to the sweep and weighed; the ranges come from all of them together.',
		source:
			'Evidence by the method of Laplace (MacKay, Information Theory, Inference, and Learning Algorithms, 2003, ch. 27 and 28).',
		sure: 'Of a thousand simulated matches, misread by one percent in another way than the fit assumes, the ranges held coil and capacitor nine times in ten; docs and tests have the counts. It trusts the design’s other parts, and nothing that it was not told of.'
	},
	verdict: {
		title: 'The verdict of the bench',
		what: 'Whether what you wound is what you planned, or which slip the sweep looks like: a turn, the tap, halves against each other, another core, one ring, the capacitor. Where two slips look alike it says both, and which one more sweep would tell.',
		how: 'The winding as planned and with every slip, each fitted to the sweep with its tolerances, the 1 % of the resistor and what calibration leaves; then weighed. A core may also stray from its table in shape by 3 %.',
		source:
			'Evidence by the method of Laplace (MacKay, Information Theory, Inference, and Learning Algorithms, 2003, ch. 27 and 28).',
		sure: 'In two hundred simulated trials of each slip of an unun on two rings all were named or in a stated pair, and no right one was accused. A turn of a ferrite choke, or of a powder coil of more than 25 turns, hides in the spread of the core: then that is said.'
	},
	build: {
		title: 'The build sheet',
		what: 'Everything that one state of a design is made from: what to take, the steps in the order of the work, the windings, the wiring of the box, what the bench should show. Ticks and notes are kept at once, and seen on every page that shows the sheet.',
		how: 'Lists and steps follow from the parts of the design; a thing counts as in the drawer when its size, mix or value is the same there. Several builds: what is bought together, and what a way of winding leaves open, strays alike for all; what hands wind strays for each.',
		source:
			'Twice the peak voltage for capacitors, and rings of one batch alike: common practice. Resistors ± 5 %: IEC 60063, E24.',
		sure: 'The number of builds that hold lies between its bounds nine times in ten or more, tried with errors of another kind. Room in a box is judged by the wound things alone.'
	},
	log: {
		title: 'The log',
		what: 'Everything that happened to a build on one line of time. The baseline is the sweep of the finished thing: any later sweep is held against it. Swept twice with something done between, it says what moved and whether that matters.',
		how: 'The change of Γ against what two readings differ by on their own, two standard deviations of both together; it matters where a band is lost, its SWR rises by a tenth, or a reactance alone moves by 2 %.',
		source:
			'Parts brought to 2 %: common practice. Doubt of a reading as kept with the sweep, else 2 % of Γ.',
		sure: 'Two sweeps of one analyser share most of its error, so a small move is rather there than not. Evidence from the air is kept, and called weak.'
	},
	fault: {
		title: 'Finding the fault',
		what: 'Every element of what hangs and leads to it, sound and with each of its usual faults, is computed as any test would show it, and weighed against what your tests read. Odds are shares of all of them and of something that is not on the list. The test on offer tells most for its effort: in the shack 1, a walk 2, a ladder 5; no ladder while anything lower splits the two that lead.',
		how: 'Wires by the moment method with a port wherever they may part; lines, parts and the match as a cascade; what a baseline taught is kept, with what a year changes. Found means nine in ten. Where no test left splits two or three, they are named together.',
		source:
			'Harrington, Field Computation by Moment Methods, ch. 6; MacKay, Information Theory, ch. 24 and 28. How often things break: common practice, rough.',
		sure: 'Three hundred faults drawn and computed by other code are in docs and tests, with how many were found, in how many tests, and how often a wrong thing was named. Without a baseline or a plan it is less sure, and says so.'
	},
	echo: {
		title: 'Echoes along a line',
		what: 'What comes back from how far along the coax by one sweep: a break or a short throws nearly all of it back, water less of it and spread out, a sound line only from the antenna at its far end.',
		how: 'The inverse Fourier transform of Γ under a Kaiser window; places count by the velocity of the cable. A sweep of wide span resolves more, small steps reach further.',
		source:
			'Time-domain reflectometry, handbook practice; the window after Harris, Proc. IEEE 66, 1978.',
		sure: 'A sweep cannot tell a nail from water, nor left from right. The place is as good as the velocity of the cable and the tape: the range beside it has both in it.'
	},
	bench: {
		title: 'The bench check',
		what: 'What an analyser should read with a resistor in place of the antenna, or of the coil alone, before anything is hung. The shaded band holds nineteen right builds in twenty.',
		how: 'The circuit of the winding (core, leakage, winding capacitance, copper, capacitor) with each value strayed by its own tolerance, 256 builds by scrambled Sobol sequences.',
		source:
			'Permeability from the table of ring materials; leakage 0.05 to 0.25 µH and capacitance 2 to 5 pF are ranges from memory.',
		sure: 'Core ±20 % until you measured yours. Leakage and capacitance are guesses within their ranges: they decide the high bands. The band is as wide as that.'
	}
} satisfies Record<string, Entry>;

export type Topic = keyof typeof help;
