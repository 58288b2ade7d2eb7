#!/usr/bin/env python3
"""The rig as somebody's instruments and hands meet it, over its two ports: rig_test.py CLI DEMO"""
import socket
import subprocess
import sys

CLI, DEMO = sys.argv[1:3]
OVERLOAD = 9.9e37


class Line:
    def __init__(self, port):
        self.socket = socket.create_connection(("127.0.0.1", port), timeout=20)
        self.file = self.socket.makefile("rw", newline="\n")

    def say(self, line):
        self.file.write(line + "\n")
        self.file.flush()

    def ask(self, line):
        self.say(line)
        return self.file.readline().rstrip("\n")


def expect(is_so, what):
    if not is_so:
        raise AssertionError(what)


def is_dropped(line):
    try:
        return line.file.readline() == ""
    except ConnectionResetError:
        return True


def started(*arguments):
    rig = subprocess.Popen([CLI, "rig", DEMO, *arguments], stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True)
    ports = {}
    for line in rig.stdout:
        expect(not ports or ":" in line, line)
        if "127.0.0.1:" in line:
            name, _, port = line.rpartition(" 127.0.0.1:")
            ports[name] = int(port)
        else:
            expect("SIMULATED" in line, line)
        if len(ports) == 2:
            return rig, Line(ports["meter"]), Line(ports["operator"])
    raise AssertionError(rig.stderr.read())


def main():
    # On the demo wire 32 goes from S1:12 to S2:13.
    rig, meter, hands = started("--mistake", "missing/64", "--port", "0")
    try:
        idn = meter.ask("*IDN?").split(",")
        expect(len(idn) == 4, f"four fields: {idn}")
        expect(meter.ask("*opc?") == "1", "any case")
        expect(meter.ask("SYST:ERR?") == '0,"No error"', "nothing yet")
        expect(float(meter.ask("MEAS:RES?")) == OVERLOAD, "no probes, no figure")
        expect(meter.ask("SYSTem:ERRor?").startswith("-230"), "and it is said why")
        meter.say("CONF:FOO")
        expect(meter.ask("SYST:ERR?").startswith("-113"), "a header that it does not know")
        meter.say("*CLS")

        expect("lapse" not in hands.ask("probe red G0:L1"), "probes on live parts are for volts")
        hands.ask("probe black G0:L2")
        volts = float(meter.ask(":MEASURE:VOLTAGE:AC?"))
        expect(380 < volts < 420, f"{volts} V between lines of 400 V")
        hands.ask("probe red S1:12")
        hands.ask("probe black S2:13")
        expect(float(meter.ask("MEAS:RES?")) == OVERLOAD, "no ohms on live parts")
        expect(hands.ask("lock_off") == "ok", "locked off")
        expect("lapse" in hands.ask("probe red S1:12"), "not proved dead")
        expect(hands.ask("prove_dead") == "dead", "tester, lines, tester")
        hands.ask("probe red S1:12")
        hands.ask("probe black S2:13")
        expect(float(meter.ask("MEAS:CONT?")) == OVERLOAD, "the wire is not there")
        expect(float(meter.ask("READ?")) == OVERLOAD, "no reading without fresh probes")
        expect(meter.ask("SYST:ERR?").startswith("-230"), "that is said")
        hands.ask("probe red S1:11")
        hands.ask("probe black S1:12")
        expect(float(meter.ask("MEAS:RES?;*OPC?").split(";")[0]) < 10, "a contact at rest")
        expect("no line" in hands.ask("dance"), "a line that is none")
        port = hands.socket.getpeername()[1]
        hands.say("x" * 5000)  # who sends more than a line holds is dropped, the rig goes on
        expect(is_dropped(hands), "dropped")
        again = Line(port)
        expect(again.ask("quit") == "ok", "it ends")
        rig.wait(20)
        expect(rig.returncode == 0, str(rig.returncode))
    finally:
        rig.kill()
    print("the rig works")


main()
