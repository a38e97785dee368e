import { describe, expect, it } from 'vitest';

import { halfWaves, marginText, obstacleText, schoolWords, verdictText } from './words';

const zone = { label: '12 m', half_waves: 4, low_m: 22.8, high_m: 22.9 };
const margin = (share: number, metres: number) => ({ known: true, share, metres, zone });
const school = (name: 'practice' | 'long-wire' | 'model', share: number) => ({
	school: name,
	zones: [],
	windows: [],
	length: margin(share, share ? 0.28 : 0),
	counterpoise: margin(0.2, 1)
});

describe('margins', () => {
	it('tells half-waves and odd quarter-waves in words', () => {
		expect(halfWaves(1)).toBe('a half-wave');
		expect(halfWaves(4)).toBe('4 half-waves');
		expect(halfWaves(1.5)).toBe('3 quarter-waves');
	});
	it('says how far and to which side', () => {
		expect(marginText(margin(0.0123, 0.28), 'm')).toBe('1.2 %, 28 cm under 4 half-waves on 12 m');
		expect(marginText(margin(0.0123, -0.28), 'm')).toContain('over 4 half-waves');
		expect(marginText(margin(0, 0), 'm')).toBe('on 4 half-waves on 12 m');
	});
	it('does not judge what was not solved', () => {
		expect(marginText({ known: false, share: null, metres: null, zone: null }, 'm')).toContain(
			'not solved'
		);
	});
});

describe('the verdict of a length', () => {
	it('names the rule that is nearest when all are clear', () => {
		const said = verdictText(
			[school('practice', 0.012), school('long-wire', 0.05), school('model', 0.05)],
			'm'
		);
		expect(said).toMatch(/^Clear by all three\. Nearest by n · 468/);
	});
	it('says so when the rules disagree', () => {
		const said = verdictText(
			[school('practice', 0.01), school('long-wire', 0), school('model', 0)],
			'm'
		);
		expect(said).toContain('The rules disagree: by 492 ft');
		expect(said).toContain('by the other it is clear');
	});
	it('and when every rule is against it', () => {
		expect(verdictText([school('practice', 0), school('long-wire', 0)], 'm')).toBe(
			'By every rule it is 4 half-waves on 12 m.'
		);
	});
});

describe('what stands in the way', () => {
	it('says how much is missing', () => {
		expect(obstacleText({ code: 'height', needs: 7.165, there: 6.8 }, 'm')).toMatch(
			/0\.365 m more/
		);
	});
	it('has words for every school', () => {
		expect(Object.keys(schoolWords)).toHaveLength(20);
	});
});
