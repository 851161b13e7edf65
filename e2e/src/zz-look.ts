import { DEMO_TEACHER } from '@kite-trail/demo/load';
import { openBrowser, Person } from './support/browser';
import { School } from './support/school';
const school = await School.start();
const browser = await openBrowser({ size: { width: 1280, height: 800 } });
const teacher = await Person.at(browser, school.url);
teacher.page.on('pageerror', (e) => console.log('pageerror', (e as Error).message, (e as Error).stack));
const shot = (name: string, p = teacher) => p.page.screenshot({ path: `/tmp/shots/${name}.png` });
await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
await (await teacher.page.waitForSelector('::-p-text(From chart to compass)'))!.click();
await teacher.find('slider', 'Playhead');
try {
  await teacher.page.waitForSelector('[aria-label=Trail][aria-busy=false]');
  const slider = await teacher.find('slider', 'Playhead');
  await slider.focus();
  for (let n = 0; n < 3; n++) await teacher.page.keyboard.press('PageUp');
  await teacher.press('Chapters');
  await shot('1-chapters');
  await teacher.press('Share');
  await teacher.press('Make a watch link');
  await teacher.sees('Whoever has this link can watch');
  const link = await teacher.valueOf('textbox', 'Watch link');
  const student = await Person.at(browser, link);
  student.page.on('pageerror', (e) => console.log('pageerror', (e as Error).message, (e as Error).stack));
  const range = await student.find('slider', 'Where to play');
  await range.evaluate((element) => {
    (element as HTMLInputElement).value = String(30 * 48_000);
    element.dispatchEvent(new Event('input', { bubbles: true }));
  });
  await student.press('Captions');
  await student.press('Transcript');
  await student.page.waitForSelector('.words');
  await student.page.waitForNetworkIdle();
  await shot('2-watch', student);
  await student.page.setViewport({ width: 390, height: 844, deviceScaleFactor: 2 });
  await student.page.waitForNetworkIdle();
  await shot('3-watch-phone', student);
  await student.press('Close the transcript');
  await shot('4-watch-phone', student);
  await teacher.page.bringToFront();
  await teacher.press('Trim');
  for (const [w, h, n] of [[820, 1180, '5-tablet'], [390, 844, '6-phone']] as const) {
    await teacher.page.setViewport({ width: w, height: h });
    await shot(n);
  }
} catch (e) { console.log(String(e)); await shot('x-error'); }
await browser.close();
await school.close();
