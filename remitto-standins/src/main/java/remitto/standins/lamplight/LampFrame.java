package remitto.standins.lamplight;

import remitto.standins.page.Frame;
import remitto.standins.page.Html;

/** The looks of Lamplight Ads. */
final class LampFrame implements Frame {
    @Override
    public String page(String title, String body) {
        return """
                <!doctype html><html lang="en"><head><meta charset="utf-8"><title>%s - Lamplight Ads</title>
                <meta name="viewport" content="width=device-width"><style>
                body{font:15px/1.5 system-ui,sans-serif;margin:0;background:#1d1830;color:#efe9ff}
                header{padding:14px 26px;border-bottom:1px solid #4a4170;display:flex;gap:20px;align-items:baseline}
                header b{font-size:18px}a{color:#d7c8ff}header small{margin-left:auto}
                main{max-width:980px;margin:0 auto;padding:26px}h1{font-weight:600;font-size:20px;margin:0 0 10px}
                table{border-collapse:collapse;width:100%%;margin-bottom:24px}
                th,td{border-bottom:1px solid #4a4170;padding:6px 8px;text-align:left}td.num{text-align:right}
                input,select,button{font:inherit;padding:3px 7px;background:#2c2547;color:inherit;border:1px solid #6d629c;border-radius:4px}
                small,.quiet{color:#b9aee0}</style></head><body>
                <header><b>Lamplight Ads</b><a href="/">Lists</a><a href="/faults">Fault panel</a><a href="/calls">Calls</a>
                <small>a stand-in for trying things out</small></header><main>%s</main></body></html>
                """.formatted(Html.escape(title), body);
    }
}
