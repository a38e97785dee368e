<!-- @component
	Which antenna for this place: the place and the bands at the left, schools as cards, and the one that is best for what
	one cares for. One press makes its build.
-->
<script lang="ts">
	import { onDestroy, onMount, untrack } from 'svelte';

	import { answer, api, problemText, type Schemas, type Target } from '../lib/api/client';
	import LengthField from '../lib/controls/LengthField.svelte';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import Help from '../lib/help/Help.svelte';
	import { router } from '../lib/router/router.svelte';
	import Header from '../lib/shell/Header.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { length, watts } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import BandChips from '../wire/BandChips.svelte';
	import { kinds } from '../wire/kinds.svelte';
	import { Comparison } from './comparison.svelte';
	import { makeBuild } from './makeBuild';
	import PlacePicture from './PlacePicture.svelte';
	import SchoolCard from './SchoolCard.svelte';
	import { type Care, cares, type SchoolKey, schoolWords } from './words';

	type Place = Required<Omit<Schemas['PlaceIn'], 'stock' | 'soil'>>;

	kinds.load();
	const POLE: Place = {
		high_m: 7,
		is_pole: true,
		other_m: 0,
		span_m: 0,
		width_m: 20,
		on_ground: true,
		clear_m: 2.5,
		tuner: true
	};
	const places: [string, Partial<Place>][] = [
		['a pole', {}],
		['two trees', { high_m: 8, is_pole: false, other_m: 7, span_m: 24, width_m: 26 }],
		[
			'a loft',
			{ high_m: 6, is_pole: false, other_m: 6, span_m: 5.5, width_m: 5.5, on_ground: false }
		],
		['a balcony', { high_m: 4, other_m: 0, span_m: 0, width_m: 4, on_ground: false, clear_m: 1 }]
	];
	const has: ['is_pole' | 'on_ground' | 'tuner', string][] = [
		['is_pole', 'wire may run up it'],
		['on_ground', 'radials can be laid'],
		['tuner', 'a tuner at the radio']
	];
	let place = $state.raw<Place>(POLE);
	let keys = $state.raw(['30m', '15m', '12m']);
	let targets = $state.raw<Target[]>([]);
	let powerW = $state(100);
	let lineM = $state(15);
	let covered = $state(true);
	let soilKey = $state('garden');
	let care = $state<Care>('watts');
	let ownOnly = $state(false);
	let picked = $state<SchoolKey | null>(null);

	const stock = $derived({
		diameter_m: 0.002,
		conductor: 'copper' as const,
		covering_m: covered ? 0.0032 : null,
		permittivity: 2.5
	});
	const asked = $derived({
		place: {
			...place,
			stock,
			soil: kinds.soils.find((s) => s.key === soilKey)?.soil
		},
		targets,
		power_w: powerW,
		line_m: lineM
	});
	const work = new Comparison();
	onMount(() => void answer(api.POST('/api/schools/ready')).catch(() => undefined));
	onDestroy(() => work.end());
	let dragging = $state(false);
	$effect(() => {
		const body = asked;
		if (dragging || body.targets.length === 0 || !kinds.soils.length) return;
		untrack(() => void work.start(body));
	});

	const found = $derived(work.found);
	const stale = $derived(work.of !== asked);
	const order = $derived(
		(found?.rankings.find((r) => r.care === care)?.order ?? [])
			.map((i) => found?.cards[i])
			.filter((c): c is Schemas['SchoolCardOut'] => c !== undefined && (!ownOnly || c.from_drawer))
	);
	const cannot = $derived((found?.cards ?? []).filter((c) => c.obstacle));
	const best = $derived(order[0] ?? null);
	const looked = $derived(order.find((c) => c.key === picked) ?? best);
	const wideM = $derived(Math.max(...order.map((c) => c.span_m), place.high_m, 4));
	const highM = $derived(Math.max(place.high_m, place.other_m));
	/** The best without the price of the one looked at: without the walk, or else without the tuner. */
	const without = $derived(
		looked?.walks
			? (order.find((c) => !c.walks) ?? null)
			: looked?.needs_tuner
				? (order.find((c) => !c.needs_tuner && !c.walks) ?? null)
				: null
	);
	const price = $derived(
		looked
			? [
					looked.walks ? 'you walk to it to change the band' : '',
					looked.needs_tuner ? 'it needs a tuner' : ''
				]
					.filter(Boolean)
					.join(', and ')
			: ''
	);

	let making = $state(false);
	let refused = $state<string | null>(null);
	async function plan(): Promise<void> {
		if (!looked) return;
		making = true;
		refused = null;
		try {
			const { content } = await answer(
				api.POST('/api/schools/plans', { body: { ...asked, school: looked.key } })
			);
			const bands = content.targets.map((t) => t.label).join(' and ');
			const id = await makeBuild(
				`${schoolWords[looked.key].name}, ${bands}`,
				content.targets,
				content,
				powerW
			);
			router.go(`/builds/${id}/wire`);
		} catch (why) {
			refused = problemText(why);
		} finally {
			making = false;
		}
	}
	const changes = (given: Partial<Place>) => (place = { ...place, ...given });
</script>

<svelte:head><title>Which antenna for this place · Yielding Coil</title></svelte:head>
<Header title="Which antenna for this place" />
<main>
	<div class="desk">
		<section class="sheet asks unprinted" aria-label="What, and where">
			<h2>What, and where</h2>
			<BandChips
				chosen={keys}
				legend="Bands to hold"
				segments
				onchange={(now, bands) => {
					keys = now;
					targets = bands;
				}}
			/>
			<fieldset>
				<legend class="eyebrow">The place</legend>
				<div class="row">
					{#each places as [name, given] (name)}
						<button class="button" onclick={() => (place = { ...POLE, ...given })}>{name}</button>
					{/each}
				</div>
			</fieldset>
			<PlacePicture
				{place}
				topM={found?.top_m ?? null}
				unit={units.length}
				onplace={(given, settled) => {
					changes(given);
					dragging = !settled;
				}}
			/>
			<p class="told soft">Drag the tops, or type. A 7 m pole is 6.8 m.</p>
			<div class="row">
				<LengthField
					label={place.is_pole ? 'Pole' : 'First support'}
					metres={place.high_m}
					width={8}
					onsettle={(high_m) => changes({ high_m })}
				/>
				<LengthField
					label="Room, end to end"
					metres={place.width_m}
					width={8}
					onsettle={(width_m) => changes({ width_m })}
				/>
				{#if place.other_m > 0}
					<LengthField
						label="Second support"
						metres={place.other_m}
						width={8}
						onsettle={(other_m) => changes({ other_m })}
					/>
					<LengthField
						label="Apart"
						metres={place.span_m}
						width={8}
						onsettle={(span_m) => changes({ span_m })}
					/>
				{/if}
			</div>
			<label class="told check"
				><input
					type="checkbox"
					checked={place.other_m > 0}
					onchange={(event) =>
						changes(
							event.currentTarget.checked
								? { other_m: place.high_m, span_m: place.width_m }
								: { other_m: 0, span_m: 0 }
						)}
				/> a second support</label
			>
			{#each has as [key, name] (key)}
				<label class="told check"
					><input
						type="checkbox"
						checked={place[key]}
						onchange={(event) => changes({ [key]: event.currentTarget.checked })}
					/>
					{name}</label
				>
			{/each}
			<label class="told check"><input type="checkbox" bind:checked={covered} /> covered wire</label
			>
			<label class="told check"
				>over
				<select bind:value={soilKey}>
					{#each kinds.soils as s (s.key)}<option value={s.key}>{s.name}</option>{/each}
				</select></label
			>
			<div class="row">
				<QuantityField
					label="Power"
					kind="power"
					width={7}
					shown={watts(powerW)}
					onsettle={(w) => (powerW = w)}
				/>
				<LengthField label="Coax" metres={lineM} width={8} onsettle={(m) => (lineM = m)} />
			</div>
			<fieldset>
				<legend class="eyebrow">I care most for</legend>
				<div class="row">
					{#each cares as [key, name] (key)}
						<button
							class="button"
							class:main={care === key}
							aria-pressed={care === key}
							onclick={() => (care = key)}>{name}</button
						>
					{/each}
				</div>
			</fieldset>
			<label class="told check"
				><input type="checkbox" bind:checked={ownOnly} /> only what my drawer can make</label
			>
		</section>
		<div class="found">
			{#if work.problem}<Note kind="danger">{work.problem}</Note>{/if}
			{#if refused}<Note kind="danger">{refused}</Note>{/if}
			<section class="sheet verdict" aria-label="The one for this place" aria-busy={work.running}>
				{#if targets.length === 0}
					<p class="do">Choose a band or more</p>
				{:else if looked}
					<p class="told soft">
						{looked === best ? `For ${cares.find(([key]) => key === care)?.[1]}` : 'Looked at'}: {targets
							.map((t) => t.label)
							.join(', ')}; {length(found?.top_m ?? place.high_m, units.length)} high, {length(
							place.width_m,
							units.length
						)} of room
						<Help topic="choose" name="the comparison" />
					</p>
					<p class="do">{schoolWords[looked.key].name}</p>
					<p class="told">
						At least {watts(looked.least_w)} of {watts(powerW)} in the air on every band{price
							? `. Its price: ${price}`
							: ', without a tuner and without a walk'}.
						{#if without}Without the {looked.walks ? 'walk' : 'tuner'}: {schoolWords[
								without.key
							].name.toLowerCase()}, at least {watts(without.least_w)}{without.needs_tuner
								? ' with a tuner'
								: ''}.{/if}
					</p>
					<p class="row unprinted">
						<button class="button main" disabled={making || stale || work.running} onclick={plan}
							>Plan this one</button
						>
						<button class="button" onclick={() => print()}>Print it</button>
						{#if making}<span class="soft told" role="status">bringing it to its bands…</span>{/if}
					</p>
				{:else if !work.running && !work.cutAt && found}
					<p class="do">Nothing fits here</p>
					<p class="told">
						{#if ownOnly && (found.rankings[0]?.order.length ?? 0) > 0}Nothing of it can be made
							from the drawer alone.
						{:else if found.drop.length}Drop {found.drop.join(' or ')}, and something does.
						{:else}More height or more room, or radials where they can lie, would help; each card
							says what it wants.{/if}
					</p>
				{:else}<p class="do soft">{work.cutAt ? 'Not compared to the end' : 'Comparing…'}</p>{/if}
				{#if work.running}
					<p class="row told" role="status">
						{work.job?.progress.done ?? 0} of {work.job?.progress.of ?? 20} schools compared
						<button class="button unprinted" onclick={() => void work.stop()}>Stop</button>
					</p>
				{:else if work.cutAt}
					<p class="row told" role="status">
						{work.cutAt.done
							? `Ended after ${work.cutAt.done} of ${work.cutAt.of} schools: one of the others may be better.`
							: `Ended before the first of ${work.cutAt.of} schools was compared.`}
						<button class="button unprinted" onclick={() => void work.start(asked)}
							>Compare all of them</button
						>
					</p>
				{/if}
			</section>
			<div class="cards" class:stale>
				{#each order as card (card.key)}
					<SchoolCard
						{card}
						{powerW}
						{wideM}
						{highM}
						unit={units.length}
						chosen={card === looked}
						best={card === best}
						onchoose={() => (picked = card.key)}
					/>
				{/each}
			</div>
			{#if cannot.length && targets.length}
				<div class="cards" class:stale>
					{#each cannot as card (card.key)}
						<SchoolCard
							{card}
							{powerW}
							{wideM}
							{highM}
							unit={units.length}
							chosen={false}
							best={false}
							onchoose={() => undefined}
						/>
					{/each}
				</div>
			{/if}
			{#if order.length}
				<p class="told soft">
					Watts radiated of {watts(powerW)}, nine times in ten between the two; SWR is the worst
					over the band at the radio, “t” with a tuner reckoned in. Compared roughly, to choose by:
					the one you plan is solved in full. Trees, gutters and roofs are not in it.
				</p>
				<Note kind="danger"
					>Look up before a pole or a wire goes up: no power line within its whole falling length or
					the throw. Local rules and qualified people come before this page.</Note
				>
			{/if}
		</div>
	</div>
</main>

<style>
	main {
		padding: 0 18px 24px;
	}
	.desk {
		display: grid;
		grid-template-columns: 258px minmax(0, 1fr);
		gap: 12px;
		align-items: start;
	}
	.asks,
	.found {
		display: grid;
		gap: 10px;
		grid-template-columns: minmax(0, 1fr);
		min-width: 0;
	}
	.found {
		gap: 12px;
	}
	fieldset {
		border: 0;
		padding: 0;
		margin: 0;
		display: grid;
		gap: 6px;
		min-width: 0;
	}
	.row {
		gap: 6px;
	}
	.verdict {
		display: grid;
		gap: 4px;
	}
	.cards {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(min(100%, 420px), 1fr));
		gap: 12px;
	}
	.stale {
		opacity: 0.6;
	}
	@media (max-width: 800px) {
		.desk {
			grid-template-columns: minmax(0, 1fr);
		}
		/* The answer first, then what it is of, then the cards. */
		.found {
			display: contents;
		}
		.verdict {
			order: -1;
		}
	}
</style>
