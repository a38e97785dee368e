/** A drawing as a file of its own: SVG with its colours and faces in it, or PNG of it at twice the size. */

const kept = [
	'fill',
	'fill-opacity',
	'stroke',
	'stroke-width',
	'stroke-dasharray',
	'stroke-linecap',
	'opacity',
	'font-family',
	'font-size',
	'font-weight',
	'text-anchor',
	'paint-order',
	'letter-spacing',
	'font-variant-numeric'
];

/** The markup of a drawing as it looks now: what the page's styles gave it is written into it. */
export function svgText(drawing: SVGSVGElement, title: string): string {
	const copy = drawing.cloneNode(true) as SVGSVGElement;
	const from = [drawing, ...drawing.querySelectorAll('*')];
	const to = [copy, ...copy.querySelectorAll('*')];
	from.forEach((element, i) => {
		const look = getComputedStyle(element);
		const there = to[i] as SVGElement;
		for (const name of kept) {
			const value = look.getPropertyValue(name);
			if (value) there.style.setProperty(name, value);
		}
		there.removeAttribute('class');
	});
	const { width, height } = drawing.getBoundingClientRect();
	copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
	copy.setAttribute('width', String(Math.round(width)));
	copy.setAttribute('height', String(Math.round(height)));
	if (!copy.hasAttribute('viewBox')) copy.setAttribute('viewBox', `0 0 ${width} ${height}`);
	const space = 'http://www.w3.org/2000/svg';
	const ground = document.createElementNS(space, 'rect');
	ground.setAttribute('width', '100%');
	ground.setAttribute('height', '100%');
	ground.setAttribute(
		'fill',
		getComputedStyle(drawing.closest('.sheet') ?? document.body).backgroundColor
	);
	copy.prepend(ground);
	const name = document.createElementNS(space, 'title');
	name.textContent = title;
	copy.prepend(name);
	return new XMLSerializer().serializeToString(copy);
}

/** Faces that the page loaded, as data inside a style: a picture cannot fetch them. */
async function faces(): Promise<string> {
	const found: string[] = [];
	for (const sheet of document.styleSheets) {
		for (const rule of sheet.cssRules) {
			if (!(rule instanceof CSSFontFaceRule) || !rule.style.getPropertyValue('src')) continue;
			const range = rule.style.getPropertyValue('unicode-range');
			if (range && !/U\+0-FF|U\+00/i.test(range)) continue;
			const address = /url\("?([^")]+)"?\)/.exec(rule.style.getPropertyValue('src'))?.[1];
			if (!address) continue;
			const blob = await (await fetch(new URL(address, sheet.href ?? location.href))).blob();
			const data = await new Promise<string>((done) => {
				const reader = new FileReader();
				reader.onload = () => done(String(reader.result));
				reader.readAsDataURL(blob);
			});
			found.push(
				`@font-face{font-family:${rule.style.getPropertyValue('font-family')};font-weight:200 800;src:url(${data})}`
			);
		}
	}
	return found.join('');
}

function download(blob: Blob, name: string): void {
	const link = document.createElement('a');
	link.href = URL.createObjectURL(blob);
	link.download = name;
	link.click();
	setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}

const fileName = (title: string) => title.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-|-$/g, '');

export async function takeOut(
	drawing: SVGSVGElement,
	title: string,
	kind: 'svg' | 'png'
): Promise<void> {
	const text = svgText(drawing, title).replace(
		/(<svg[^>]*>)/,
		`$1<defs><style>${await faces()}</style></defs>`
	);
	const svg = new Blob([text], { type: 'image/svg+xml' });
	if (kind === 'svg') return download(svg, `${fileName(title)}.svg`);
	const image = new Image();
	image.src = URL.createObjectURL(svg);
	await image.decode();
	const canvas = document.createElement('canvas');
	const { width, height } = drawing.getBoundingClientRect();
	canvas.width = Math.round(width * 2);
	canvas.height = Math.round(height * 2);
	canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height);
	URL.revokeObjectURL(image.src);
	const png = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'));
	if (png) download(png, `${fileName(title)}.png`);
}
