/** The mark: four tally strokes, the fifth leaning across them like a needle. */
export function Mark() {
	return (
		<svg width="26" height="20" viewBox="0 0 26 20" aria-hidden="true">
			{[5, 10, 15, 20].map((x) => (
				<line key={x} x1={x} x2={x} y1="3" y2="17" stroke="#20262e" strokeWidth="2.2" strokeLinecap="round" />
			))}
			<line x1="1.5" y1="15" x2="24.5" y2="6" stroke="#5a2a54" strokeWidth="2.6" strokeLinecap="round" />
		</svg>
	)
}
