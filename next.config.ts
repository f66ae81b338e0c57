import type { NextConfig } from 'next'

const config: NextConfig = {
	serverExternalPackages: [
		'better-sqlite3',
		'pdfkit',
		'fontkit',
		'svg-to-pdfkit',
		'png-js',
		'mailparser',
		'nodemailer',
		'smtp-server',
		'zxing-wasm',
		'bwip-js',
		'bidi-js',
		'docx',
		'@resvg/resvg-wasm',
		'@cantoo/pdf-lib',
	],
	// Types are checked by `npm test`, with the compiler's own command.
	typescript: { ignoreBuildErrors: true },
	devIndicators: false,
	poweredByHeader: false,
	turbopack: { root: import.meta.dirname },
	// Browsers ask for this name unasked; the icon is drawn.
	rewrites: async () => [{ source: '/favicon.ico', destination: '/icon.svg' }],
	experimental: {
		// A file in a form, pictures many at once: what goes through the proxy is bounded alike.
		serverActions: { bodySizeLimit: '50mb' },
		proxyClientMaxBodySize: '50mb',
		// A page is loaded when somebody opens it: the web is there in half the time.
		preloadEntriesOnStart: false,
	},
}

export default config
