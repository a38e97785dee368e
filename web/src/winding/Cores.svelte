<!-- @component
	Which core for this: all of them judged, loss against warming; the best named, a click takes one.
-->
<script lang="ts">
	import { scaleLog } from 'd3-scale';

	import { answer, api, type Content, type Piece, type Schemas } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import { openBuild } from '../lib/build/buildState.svelte';
	import { figures, swr } from '../lib/units/format';
	import { withElement } from '../design/content';
	import { coreName, fixedRatio, type Transformer } from './wound';

	interface Props {
		content: Content;
		element: Transformer;
		/** Cores of one's own. */
		cores: Piece[];
		onedit: (content: Content) => void;
	}

	let { content, element, cores, onedit }: Props = $props();

	const page = openBuild();
	const build = $derived(page.build);

	let ownOnly = $state(false);

	const ratings = latest(
		() => ({
			content,
			key: element.key,
			power_w: build.power_w,
			mode: build.mode,
			own_only: ownOnly
		}),
		(body) => answer(api.POST('/api/cores', { body })),
		{ keeps: true }
	);
	const found = $derived(ratings.value);
	const problem = $derived(ratings.problem);

	type Core = Schemas['CoreOut'];
	const width = 440;
	const height = 210;
	const x = scaleLog([0.02, 4], [44, width - 10]).clamp(true);
	const y = scaleLog([2, 200], [height - 30, 10]).clamp(true);
	const top = $derived((found?.cores ?? []).filter((c) => c.fits).slice(0, 6));
	const key = (c: Core) =>
		`${c.piece_id ?? ''}${coreName(c)} ${c.primary_turns}:${c.secondary_turns}`;

	const counted = $derived(!fixedRatio[element.wiring]);
	const turnsOf = (c: Core) =>
		counted ? `${c.primary_turns} in ${c.secondary_turns}` : `${c.primary_turns} turns`;

	function take(c: Core): void {
		const own = cores.find((p) => p.id === c.piece_id);
		const changes = {
			core: { mix: c.mix, size: c.size, stack: c.stack, al_h: c.al_h },
			primary_turns: c.primary_turns,
			secondary_turns: c.secondary_turns,
			input_capacitance_f: c.input_capacitance_f,
			piece: own
				? {
						id: own.id,
						revision: own.revision,
						values: own.held.values as Record<string, unknown>
					}
				: null
		};
		onedit(withElement(content, element.key, changes));
	}
</script>

<div class="head">
	<h2>Which core for this?</h2>
	<label class="told check"
		><input type="checkbox" bind:checked={ownOnly} /> only what lies in the drawer</label
	>
</div>
{#if problem}
	<p class="told">{problem}.</p>
{:else if found}
	{#if found.cores.length === 0}
		<p class="told">No core of your own lies in the <a href="/drawer">drawer</a> yet.</p>
	{:else}
		<svg viewBox="0 0 {width} {height}" role="img" aria-label="Loss and warming of every core">
			{#each [0.05, 0.1, 0.2, 0.5, 1, 2] as tick (tick)}
				<line class="grid" x1={x(tick)} x2={x(tick)} y1="10" y2={height - 30} />
				<text x={x(tick)} y={height - 15} text-anchor="middle">{tick}{tick === 2 ? ' dB' : ''}</text
				>
			{/each}
			{#each [5, 10, 20, 100] as tick (tick)}
				<text x="38" y={y(tick) + 4} text-anchor="end">{tick}</text>
			{/each}
			<line class="limit" x1="44" x2={width - 10} y1={y(40)} y2={y(40)} />
			<text class="limit-name" x="48" y={y(40) - 4}>40 °C above air temperature</text>
			{#each found.cores.filter((c) => c.fits) as c (key(c))}
				<circle
					class:good={c.good}
					class:here={c.here}
					cx={x(c.worst_loss_db)}
					cy={y(c.rise_c)}
					r={c.here ? 6 : 4}
				>
					<title
						>{key(c)}: {figures(c.worst_loss_db, 2)} dB, +{figures(c.rise_c, 2)} °C, SWR {swr(
							c.worst_swr
						)}</title
					>
				</circle>
			{/each}
		</svg>
		<ol>
			{#each top as c (key(c))}
				<li>
					<button class="plain" onclick={() => take(c)} disabled={c.here}
						>{c.piece_name ?? coreName(c)}, {turnsOf(c)}</button
					>
					<span class="mono"
						>{figures(c.worst_loss_db, 2)} dB · SWR {swr(c.worst_swr)} · +{c.rise_c.toFixed(0)} °C</span
					>
					{#if !c.holds}<span class="soft">over the limit</span>{/if}
					{#if c.long}<span class="soft">wire long beside a wave</span>{/if}
				</li>
			{/each}
		</ol>
		<p class="told soft">
			{found.judged} pairs of ring and turns judged, for {build.mode} at {figures(build.power_w)} W; green
			ones hold every band and stay cool. Figures are the worst over the spread of each core.
			{found.without_loss_data} powder mixes have no loss data and are left out.
			{#if found.ends_too_low?.length}Not ranked, since their data end below your highest band: mix {found.ends_too_low.join(
					', '
				)}.{/if}
		</p>
	{/if}
{:else}
	<p class="told soft">Judging every core…</p>
{/if}

<style>
	svg {
		width: 100%;
		display: block;
	}
	.grid {
		stroke: var(--line);
	}
	text {
		font: var(--size-12) var(--mono);
		fill: var(--soft);
	}
	circle {
		fill: var(--control-edge);
		opacity: 0.55;
	}
	circle.good {
		fill: var(--verdigris);
		opacity: 0.9;
	}
	circle.here {
		stroke: var(--ink);
		stroke-width: 2.5;
		opacity: 1;
	}
	.limit {
		stroke: var(--enamel);
		stroke-dasharray: 3 3;
	}
	.limit-name {
		fill: var(--enamel);
		font-family: var(--face);
	}
	ol {
		padding-left: 20px;
		font-size: var(--size-13);
	}
	li .mono {
		font-size: var(--size-12);
	}
	.plain:disabled {
		color: var(--ink);
		text-decoration: none;
		font-weight: 700;
	}
	/* Drawn smaller on a phone: its words stay as large as they can be read. */
	@media (max-width: 620px) {
		svg text {
			font-size: 17px;
		}
	}
</style>
