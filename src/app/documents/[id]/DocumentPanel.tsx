'use client'
import { useState } from 'react'
import { Panel, type PanelTab, panelTabs, usePanel } from '@/app/documentPanel/Panel'
import { useKeys } from '@/ui/useKeys'

/** The panel at full width; W turns to the working and back, the arrows go from one part to the next. */
export function DocumentPanel({ id, version }: { id: number; version: string }) {
	const [tab, setTab] = useState<PanelTab>('paper')
	const view = usePanel(id, version)
	const turn = (by: number) =>
		setTab(panelTabs[(panelTabs.indexOf(tab) + by + panelTabs.length) % panelTabs.length] ?? 'paper')
	useKeys({
		w: () => setTab(tab === 'working' ? 'paper' : 'working'),
		ArrowRight: () => turn(1),
		ArrowLeft: () => turn(-1),
	})
	return (
		<div className="flex min-h-0 w-full flex-1 flex-col border-t border-rule">
			{view && <Panel view={view} tab={tab} onTab={setTab} wide />}
		</div>
	)
}
