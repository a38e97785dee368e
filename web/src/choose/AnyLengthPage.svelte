<!-- @component
	A wire of any length through nine to one: every length against the wanted bands, three rules beside each other, the
	margin of one length, the best windows, and that length as an antenna band by band.
-->
<script lang="ts">
	import { answer, api, problemText, type Target } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import LengthField from '../lib/controls/LengthField.svelte';
	import Help from '../lib/help/Help.svelte';
	import { router } from '../lib/router/router.svelte';
	import Header from '../lib/shell/Header.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { length, quantity, swr, watts } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import BandChips from '../wire/BandChips.svelte';
	import { kinds } from '../wire/kinds.svelte';
	import LengthStrip from './LengthStrip.svelte';
	import { makeBuild } from './makeBuild';
	import { marginText, ruleNames, verdictText } from './words';

	kinds.load();
	let keys = $state.raw(['30m', '15m', '12m']);
	let targets = $state.raw<Target[]>([]);
	let leastM = $state(8);
	let mostM = $state(30);
	let lengthM = $state(12.5);
	let counterpoiseM = $state(4);
	let heightM = $state(7);
	let lineM = $state(15);
	let covered = $state(true);
	let quarters = $state(false);
	const powerW = 100;

	const asked = $derived(
		targets.length
			? {
					targets,
					least_m: leastM,
					most_m: mostM,
					length_m: lengthM,
					counterpoise_m: counterpoiseM,
					quarters
				}
			: null
	);
	const stock = $derived({
		diameter_m: 0.002,
		conductor: 'copper' as const,
		covering_m: covered ? 0.0032 : null,
		permittivity: 2.5
	});
	const rules = latest(
		() => asked,
		(body) => answer(api.POST('/api/any-lengths/rules', { body })),
		{ keeps: true }
	);
	let dragging = $state(false);
	/** As it hangs, and what stands below it. */
	const whole = $derived(
		asked && { ...asked, height_m: heightM, stock, power_w: powerW, line_m: lineM }
	);
	const solved = latest(
		() => (dragging ? null : whole),
		(body) => answer(api.POST('/api/any-lengths/strips', { body })),
		{ keeps: true }
	);
	const chosen = latest(
		() => (dragging ? null : whole),
		(body) => answer(api.POST('/api/any-lengths/chosen', { body })),
		{ keeps: true }
	);
	const schools = $derived([
		...(rules.value?.schools ?? []),
		...(solved.value && !dragging ? [solved.value.school] : [])
	]);
	const clear = $derived((solved.value ?? rules.value)?.clear ?? []);
	const problem = $derived(rules.problem ?? solved.problem ?? chosen.problem);
	const busy = $derived(solved.loading || chosen.loading);

	let making = $state(false);
	let refused = $state<string | null>(null);
	async function make(): Promise<void> {
		if (!whole) return;
		making = true;
		refused = null;
		try {
			// Asked anew: what is shown may be of the length before.
			const { content } = await answer(api.POST('/api/any-lengths/chosen', { body: whole }));
			const name = `${length(lengthM, units.length)} of wire, 9 : 1`;
			const id = await makeBuild(name, content.targets, content, powerW);
			router.go(`/builds/${id}/wire`);
		} catch (why) {
			refused = problemText(why);
		} finally {
			making = false;
		}
	}
</script>

<svelte:head><title>A length that fits · Yielding Coil</title></svelte:head>
<Header title="A length that fits" />
<main>
	{#if problem}<Note kind="danger">{problem}</Note>{/if}
	{#if refused}<Note kind="danger">{refused}</Note>{/if}
	<div class="desk">
		<section class="sheet asks unprinted" aria-label="What, and where">
			<h2>What, and where</h2>
			<BandChips
				chosen={keys}
				legend="Bands to hold"
				segments
				onchange={(now, found) => {
					keys = now;
					targets = found;
				}}
			/>
			{#if keys.length === 0}<p class="told">Choose a band or more.</p>{/if}
			<div class="row">
				<LengthField label="Room from" metres={leastM} onsettle={(m) => (leastM = m)} />
				<LengthField label="to" metres={mostM} onsettle={(m) => (mostM = m)} />
			</div>
			<LengthField label="Height, level" metres={heightM} onsettle={(m) => (heightM = m)} />
			<LengthField
				label="Counterpoise"
				metres={counterpoiseM}
				onsettle={(m) => (counterpoiseM = m)}
			/>
			<LengthField label="Coax to the radio" metres={lineM} onsettle={(m) => (lineM = m)} />
			<label class="told check"><input type="checkbox" bind:checked={covered} /> covered wire</label
			>
			<label class="told check"
				><input type="checkbox" bind:checked={quarters} /> the stricter school: no odd quarter-waves either</label
			>
		</section>
		<div class="mid">
			<section class="sheet strip" aria-label="The strip">
				<div class="head">
					<h2>Every length on every band <Help topic="any-length" name="lengths that fit" /></h2>
					{#if solved.loading}<span class="soft told" role="status">solving every length…</span
						>{/if}
				</div>
				{#if targets.length && rules.value}
					<LengthStrip
						{targets}
						{schools}
						{clear}
						strip={solved.value}
						stale={solved.loading}
						{leastM}
						{mostM}
						{lengthM}
						unit={units.length}
						onlength={(m, settled) => {
							lengthM = m;
							dragging = !settled;
						}}
					/>
				{:else}<p class="wait soft">…</p>{/if}
			</section>
			<section class="sheet bands" aria-label="Band by band" class:stale={busy}>
				<h2>This length, band by band <span class="soft told">of {watts(powerW)}</span></h2>
				<div class="scroll">
					<table>
						<thead>
							<tr>
								<th scope="col">band</th>
								<th scope="col">at its feed</th>
								<th scope="col">SWR behind 9 : 1</th>
								<th scope="col">the tuner sees</th>
								<th scope="col">goes up</th>
								<th scope="col">stays behind</th>
							</tr>
						</thead>
						<tbody>
							{#each chosen.value?.bands ?? [] as band (band.label)}
								<tr>
									<th scope="row">{band.label}</th>
									<td class="mono"
										>{quantity(band.resistance_ohm, 'Ω')}
										{(band.reactance_ohm ?? 0) < 0 ? '−' : '+'} j{quantity(
											Math.abs(band.reactance_ohm ?? 0),
											'Ω'
										)}</td
									>
									<td class="mono">{swr(band.swr_low)} to {swr(band.swr_high)}</td>
									<td class="mono">{swr(band.radio_swr)}</td>
									<td class="mono"
										>{#if band.up_w !== null}{watts(band.up_w)}<br /><span class="soft"
												>{Math.round(band.low_w ?? 0)} to {Math.round(band.high_w ?? 0)} W</span
											>{:else}–{/if}</td
									>
									<td>
										{#if band.far_under}<strong class="bad"
												>far under a quarter-wave: a low reading here is loss</strong
											><br />{/if}
										{#if band.up_w === null}<strong class="bad">no tuner setting matches it</strong>
										{:else}{watts(powerW - (band.wire_w ?? 0))} in tuner, coax and unun, {watts(
												(band.wire_w ?? 0) - band.up_w
											)} in ground and wire{/if}
									</td>
								</tr>
							{:else}
								<tr><td colspan="6" class="soft">…</td></tr>
							{/each}
						</tbody>
					</table>
				</div>
				<p class="told soft">
					Through nine turns of three wires on a 1.4 inch ring of mix 43, {length(
						lineM,
						units.length
					)} of 6 mm foam coax, and a usual tuner at the radio, which it needs on every band. Between
					nine of ten such builds.
				</p>
				<Note kind="danger"
					>Look up before a wire goes up: no power line within reach. Its ends carry high voltage
					while transmitting; so does the tuner. Local rules and qualified people come before this
					page.</Note
				>
			</section>
		</div>
		<div class="right">
			<section class="sheet verdict" aria-label="This length" aria-busy={busy}>
				<p class="do">This length</p>
				<p class="told soft">
					{targets.map((t) => t.label).join(', ')}; {length(heightM, units.length)} high, against {length(
						counterpoiseM,
						units.length
					)} of counterpoise
				</p>
				<p><span class="figure">{length(lengthM, units.length)}</span></p>
				<p class="told">{schools.length ? verdictText(schools, units.length) : '…'}</p>
				<LengthField label="Another" metres={lengthM} width={10} onsettle={(m) => (lengthM = m)} />
				<p class="row unprinted">
					<button class="button main" disabled={!whole || making || dragging} onclick={make}
						>Plan this one</button
					>
					<button class="button" onclick={() => print()}>Print it</button>
				</p>
				{#if making}<p class="soft told" role="status">making the build…</p>{/if}
			</section>
			<section class="sheet margins" aria-label="Margins">
				<h2>How far from a half-wave</h2>
				<table>
					<thead
						><tr
							><th scope="col">by</th><th scope="col">wire</th><th scope="col">counterpoise</th></tr
						></thead
					>
					<tbody>
						{#each schools as school (school.school)}
							<tr>
								<th scope="row">{ruleNames.find(([key]) => key === school.school)?.[1]}</th>
								<td class:bad={school.length.share === 0}
									>{marginText(school.length, units.length)}</td
								>
								<td class:bad={school.counterpoise.share === 0}
									>{marginText(school.counterpoise, units.length)}</td
								>
							</tr>
						{/each}
					</tbody>
				</table>
				<h3>Widest windows, clear by all</h3>
				<ul class="row windows">
					{#each clear.slice(0, 5) as window (window.low_m)}
						<li>
							<button
								class="button"
								onclick={() => (lengthM = Math.round(window.best_m * 100) / 100)}
								>{length(Math.round(window.best_m * 100) / 100, units.length)}</button
							>
							<span class="soft told"
								>{length(window.low_m, units.length)} to {length(window.high_m, units.length)}</span
							>
						</li>
					{:else}
						<li class="told">
							None: every length from {length(leastM, units.length)} to {length(
								mostM,
								units.length
							)} is a half-wave on some band by some rule. Take a band out, or more room.
						</li>
					{/each}
				</ul>
				<p class="told soft">
					The rules disagree at many half-waves: the first counts the ends each time, the second
					once. Common practice takes the first.
				</p>
			</section>
		</div>
	</div>
</main>

<style>
	main {
		padding: 0 18px 24px;
	}
	.desk {
		display: grid;
		grid-template-columns: 250px minmax(0, 1fr) 290px;
		gap: 12px;
		align-items: start;
	}
	.mid,
	.right,
	.asks,
	.verdict {
		display: grid;
		gap: 12px;
		grid-template-columns: minmax(0, 1fr);
		min-width: 0;
	}
	.asks {
		gap: 10px;
	}
	.verdict {
		gap: 8px;
		justify-items: start;
	}
	table {
		width: 100%;
		border-collapse: collapse;
		font-size: var(--size-12);
	}
	th {
		text-align: left;
		font-weight: 400;
		color: var(--soft);
	}
	tbody th {
		color: var(--ink);
		font-weight: 700;
	}
	td,
	th {
		padding: 3px 8px 3px 0;
		vertical-align: top;
	}
	.bands th,
	.bands .mono {
		white-space: nowrap;
	}
	.bad {
		color: var(--enamel);
		font-weight: 700;
	}
	.windows {
		list-style: none;
		padding: 0;
		margin: 6px 0;
		display: grid;
		gap: 6px;
	}
	h3 {
		font-size: var(--size-14);
		margin-top: 10px;
	}
	.scroll {
		overflow-x: auto;
	}
	.stale {
		opacity: 0.7;
	}
	@media (max-width: 1000px) {
		.desk {
			grid-template-columns: minmax(0, 1fr);
		}
		/* One column: the answer, the strip, what was asked, then the rest. */
		.mid,
		.right {
			display: contents;
		}
		.verdict {
			order: -3;
		}
		.strip {
			order: -2;
		}
		.asks {
			order: -1;
		}
	}
</style>
