<!-- @component
	How warm it gets at the power set, on a gauge; the other modes and the power that stays within 40 °C under it.
-->
<script lang="ts">
	import { figures, watts } from '../lib/units/format';
	import { hottest, waiting, type Winding } from './wound';

	interface Props {
		winding: Winding;
		powerW: number;
		/** The build's mode. */
		mode: string;
	}

	let { winding, powerW, mode }: Props = $props();

	const names: Record<string, string> = {
		speech: 'speech',
		telegraphy: 'telegraphy',
		digital: 'digital, constant carrier'
	};
	const here = $derived(hottest(winding.heat, mode));
	const others = $derived(
		Object.keys(names)
			.filter((m) => m !== mode)
			.map((m) => ({ mode: m, found: hottest(winding.heat, m) }))
	);
	const top = 80;
	const at = $derived(Math.min(100, (100 * (here?.rise.rise_c ?? 0)) / top));
	const words = { cool: '', warm: ', warm', hot: ', too hot' };
	const rise = (c: number) => `+${c < 10 ? c.toFixed(1) : c.toFixed(0)} °C`;
</script>

<h3 class="eyebrow">
	Warms by, at {watts(powerW)}
	{names[mode] ?? mode}, on {here?.label ?? 'its bands'}
</h3>
{#if here}
	<div class="gauge" aria-hidden="true">
		<b class="mono" style:left="{Math.min(88, Math.max(8, at))}%">{rise(here.rise.rise_c)}</b>
		<span class="needle" style:left="{at}%"></span>
		<span class="ends mono"><i>0</i><i>20</i><i>40</i><i>60</i><i>80</i></span>
	</div>
	<p class="told">
		<strong class={here.rise.verdict}>{rise(here.rise.rise_c)}{words[here.rise.verdict]}</strong>
		{#if here.rise.settles_s}after some {waiting(here.rise.settles_s)}{/if}.
		{#if here.rise.highest_power_w}
			Stays within 40 °C up to <b class="mono">{figures(here.rise.highest_power_w, 2)} W</b>.
		{/if}
	</p>
	{#each others as { mode: other, found } (other)}
		{#if found}
			<p class="told">
				{names[other]?.replace(/^./, (c) => c.toUpperCase())}:
				<strong class={found.rise.verdict}
					>{rise(found.rise.rise_c)}{words[found.rise.verdict]}</strong
				>{#if found.rise.highest_power_w}, up to <span class="mono"
						>{figures(found.rise.highest_power_w, 2)} W</span
					>{/if}.
			</p>
		{/if}
	{/each}
{/if}

<style>
	.gauge {
		position: relative;
		height: 12px;
		margin: 24px 0 26px;
		border-radius: 6px;
		background: linear-gradient(
			90deg,
			var(--verdigris-wash),
			var(--tape-wash) 50%,
			var(--heat) 88%
		);
	}
	.gauge b {
		position: absolute;
		bottom: 16px;
		transform: translateX(-50%);
		font-size: var(--size-13);
		white-space: nowrap;
	}
	.needle {
		position: absolute;
		top: -4px;
		bottom: -4px;
		width: 2px;
		background: var(--ink);
	}
	.ends {
		position: absolute;
		top: 14px;
		left: 0;
		right: 0;
		display: flex;
		justify-content: space-between;
		font-size: var(--size-12);
		color: var(--soft);
	}
	i {
		font-style: normal;
	}
	.warm {
		color: var(--heat-ink);
	}
	.hot {
		color: var(--enamel);
	}
</style>
