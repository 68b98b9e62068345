import { chromium } from '@playwright/test'
const b = await chromium.launch({executablePath:'/usr/bin/chromium',args:['--no-sandbox','--disable-gpu']})
const p = await b.newPage({viewport:{width:Number(process.env.W??1280),height:Number(process.env.H??800)}})
p.on('pageerror',e=>console.log('ERR',e.message)); p.on('console',m=>m.type()==='error'&&console.log('CON',m.text()))
if(process.env.DUSK) await p.addInitScript(()=>localStorage.setItem('perch-theme','dusk'))
const [,,url,out,...steps]=process.argv
await p.goto('http://127.0.0.1:7480'+url); await p.waitForTimeout(1200)
for (const s of steps){ await eval('(async()=>{'+s+'})()'); await p.waitForTimeout(600)}
await p.screenshot({path:out}); await b.close()
