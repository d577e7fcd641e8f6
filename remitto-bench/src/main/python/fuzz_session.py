"""Signs a user of a role in, made by the administrator on first use, and prints the headers that a session is asked with."""

import http.cookiejar
import json
import sys
import urllib.error
import urllib.request

BASE, ROLE = sys.argv[1], sys.argv[2]
PASSWORD = "quay-lantern-77-otter"


def session(email):
    jar = http.cookiejar.CookieJar()
    opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(jar))
    opener.open(BASE + "/api/session").read()

    def post(path, body):
        token = next(cookie.value for cookie in jar if cookie.name == "XSRF-TOKEN")
        headers = {"Content-Type": "application/json", "X-XSRF-TOKEN": token}
        request = urllib.request.Request(BASE + path, json.dumps(body).encode(), headers)
        return opener.open(request).read()

    post("/api/session", {"email": email, "password": PASSWORD})
    opener.open(BASE + "/api/session").read()
    return jar, post


jar, post = session("admin@fuzz.example")
if ROLE != "admin":
    try:
        post("/api/users", {"email": f"{ROLE}@fuzz.example", "name": f"{ROLE} fuzz", "role": ROLE.upper(), "password": PASSWORD})
    except urllib.error.HTTPError as refused:
        if refused.code != 409:
            raise
    jar, post = session(f"{ROLE}@fuzz.example")
cookies = {cookie.name: cookie.value for cookie in jar}
print("Cookie: " + "; ".join(f"{name}={value}" for name, value in cookies.items()))
print("X-XSRF-TOKEN: " + cookies["XSRF-TOKEN"])
