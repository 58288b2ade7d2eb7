#!/usr/bin/env python3
"""The field sheet in a real browser, worked by taps on a phone's screen: sheet_test.py CLI DEMO"""
import json
import os
import subprocess
import sys
import tempfile
import urllib.error
import urllib.request

CLI, DEMO = sys.argv[1:3]
WIDTH, HEIGHT = 360, 740
TARGET = 45  # px at 96 to the inch: 12 mm


class Browser:
    """WebDriver (W3C) over HTTP, as little of it as is needed."""

    def __init__(self):
        self.driver = subprocess.Popen(["chromedriver", "--port=0"], stdout=subprocess.PIPE, text=True)
        for line in self.driver.stdout:
            if "successfully on port" in line:
                self.base = "http://127.0.0.1:" + line.rstrip(".\n").split()[-1]
                break
        arguments = ["--headless=new", f"--window-size={WIDTH},{HEIGHT}", "--disable-gpu", "--disable-dev-shm-usage"]
        if os.getuid() == 0:
            arguments.append("--no-sandbox")
        wanted = {
            "goog:chromeOptions": {
                "args": arguments,
                "mobileEmulation": {"deviceMetrics": {"width": WIDTH, "height": HEIGHT, "pixelRatio": 2}},
            },
            "goog:loggingPrefs": {"browser": "ALL"},
        }
        session = self.call("POST", "/session", {"capabilities": {"alwaysMatch": wanted}})
        self.base += "/session/" + session["sessionId"]

    def call(self, method, path, body=None):
        data = None if body is None else json.dumps(body).encode()
        request = urllib.request.Request(self.base + path, data, {"Content-Type": "application/json"}, method=method)
        with urllib.request.urlopen(request, timeout=60) as answer:
            return json.load(answer)["value"]

    def open(self, path):
        self.call("POST", "/url", {"url": "file://" + path})

    def run(self, script):
        return self.call("POST", "/execute/sync", {"script": script, "args": []})

    def element(self, name):
        found = self.call("POST", "/element", {"using": "css selector", "value": "#" + name})
        return "/element/" + next(iter(found.values()))

    def has(self, name):
        return self.run(f"return document.getElementById({json.dumps(name)}) !== null")

    def tap(self, name):
        self.call("POST", self.element(name) + "/click", {})

    def type(self, name, text):
        self.call("POST", self.element(name) + "/value", {"text": text})

    def text(self, name):
        return self.call("GET", self.element(name) + "/text")

    def troubles(self):
        return [e["message"] for e in self.call("POST", "/se/log", {"type": "browser"}) if e["level"] == "SEVERE"]

    def close(self):
        try:
            self.call("DELETE", "")
        except urllib.error.URLError:
            pass
        self.driver.terminate()
        self.driver.wait(10)


def cli(*arguments):
    done = subprocess.run([CLI, *arguments], capture_output=True, text=True, timeout=120)
    return done.returncode, done.stdout, done.stderr


def expect(is_so, what):
    if not is_so:
        raise AssertionError(what)


def fits_a_phone(browser):
    width = browser.run("return document.documentElement.scrollWidth")
    expect(width <= WIDTH, f"{width} px wide")
    low = browser.run(
        "return [...document.querySelectorAll('button,input,textarea')].filter(e => e.getBoundingClientRect().height"
        f" < {TARGET}).map(e => e.id)"
    )
    expect(low == [], f"too low for a thumb: {low}")


def make_safe(browser):
    """Through the steps that prove it dead, as they should read."""
    for _ in range(40):
        if "DEAD: proved so today" in browser.text("supply"):
            return
        if browser.has("as_expected"):
            browser.tap("as_expected")
        else:
            browser.type("figure", "0.1\n")
    raise AssertionError("it was never proved dead")


def whole_day(browser, folder):
    sheet, results, proved = (os.path.join(folder, n) for n in ("sheet.html", "results.json", "proved.sentry"))
    code, out, err = cli("sheet", "--tests", DEMO, "-o", sheet, "--remember", folder)
    expect(code == 0, err)
    size = os.path.getsize(sheet)
    expect(size <= 1024 * 1024, f"{size} bytes")
    browser.open(sheet)
    expect("step 1 of" in browser.text("head"), browser.text("head"))
    fits_a_phone(browser)
    browser.tap("as_expected")
    expect("Who reads?" in browser.text("verdict"), "nothing counts that nobody has read")
    browser.type("who", "A. Weller")
    browser.type("instrument", "meter 3")
    browser.type("until", "2099-01-31")

    browser.tap("as_expected")
    browser.run("while (!document.getElementById('make_safe')) document.getElementById('skip').click()")
    expect("NOT PROVED DEAD" in browser.text("supply"), browser.text("supply"))
    expect(not browser.has("figure"), "no reading before it is proved dead")
    browser.tap("make_safe")
    make_safe(browser)
    fits_a_phone(browser)

    while not browser.has("figure"):
        browser.tap("skip")
    browser.type("figure", "abc\n")
    expect("no figure" in browser.text("verdict"), browser.text("verdict"))
    browser.type("figure", "123456\n")
    expect("NOT as expected" in browser.text("verdict"), browser.text("verdict"))

    # Every answer in the order of the plan, from what the sheet itself expects.
    count = browser.run(
        """
        let n = 0;
        for (let k = 0; k < 1000 && openSteps() > 0; ++k) {
            const s = plan.steps[state.at];
            const e = s.expect, before = state.at;
            const low = e.low === null ? plan.overload : e.low, high = e.high === null ? plan.overload : e.high;
            if (document.getElementById('make_safe')) { document.getElementById('make_safe').click(); continue; }
            enter(s, 'word' in e ? {word: e.word} : {value: (low + high) / 2});
            ++n;
            if (state.at === before) state.at = (state.at + 1) % plan.steps.length;
        }
        return n;
        """
    )
    expect(count > 20, f"{count} readings")
    browser.tap("as_text")
    with open(results, "w", encoding="utf-8") as file:
        file.write(browser.run("return document.getElementById('results').value"))
    expect(browser.troubles() == [], "the policy let something through, or the script broke")

    code, out, err = cli("record", DEMO, "--add", results, "-o", proved, "--remember", folder)
    expect(code in (0, 1), err)
    code, out, err = cli("retest", proved, "--json", "--remember", folder)
    still = json.loads(out)["open"]
    expect(len(still) == 0, f"still open: {still[:3]}")

    # The page loaded again goes on where it was; what somebody changed on the way is not taken.
    browser.open(sheet)
    expect(", 0 open" in browser.text("head"), browser.text("head"))
    with open(results, encoding="utf-8") as file:
        sent = json.load(file)
    sent["circuit"] = "0" * len(sent["circuit"])
    with open(results, "w", encoding="utf-8") as file:
        json.dump(sent, file)
    code, out, err = cli("record", DEMO, "--add", results, "-o", proved + "2", "--remember", folder)
    expect(code == 2 and "another circuit" in err, err)
    expect(not os.path.exists(proved + "2"), "nothing is written")


def hostile_name(browser, folder):
    """A name that would end the script it stands in is only a name."""
    name = "</script><script>document.title='got in'</script><img src=x onerror=alert(1)>"
    with open(DEMO, encoding="utf-8") as file:
        dossier = json.load(file)
    dossier["dossier"]["machine"]["name"] = name
    path, sheet = os.path.join(folder, "hostile.sentry"), os.path.join(folder, "hostile.html")
    with open(path, "w", encoding="utf-8") as file:
        json.dump(dossier, file)
    code, out, err = cli("sheet", "--tests", path, "-o", sheet, "--remember", folder)
    expect(code == 0, err)
    browser.open(sheet)
    expect(browser.text("head").startswith(name), browser.text("head"))
    expect(browser.run("return document.title") == name, "the title is the name")
    expect(browser.run("return document.images.length") == 0, "no element came of it")


def main():
    browser = Browser()
    try:
        with tempfile.TemporaryDirectory() as folder:
            whole_day(browser, folder)
            hostile_name(browser, folder)
    finally:
        browser.close()
    print("the field sheet works")


main()
