package remitto.standins.gangway;

import remitto.standins.page.Frame;
import remitto.standins.page.Html;

/** The looks of Gangway Support. */
final class GangFrame implements Frame {
    @Override
    public String page(String title, String body) {
        return """
                <!doctype html><html lang="en"><head><meta charset="utf-8"><title>%s - Gangway Support</title>
                <meta name="viewport" content="width=device-width"><style>
                body{font:15px/1.5 "Trebuchet MS",sans-serif;margin:0;background:#fff7ef;color:#3a2417}
                header{background:#b4532a;color:#fff;padding:12px 22px;display:flex;gap:20px;align-items:baseline}
                header a{color:#ffe6d6}header b{font-size:18px}header small{margin-left:auto}
                main{padding:20px 22px;max-width:1100px}h1{font-size:20px;margin:0 0 10px}
                table{border-collapse:collapse;width:100%%;background:#fff}
                th,td{border:1px solid #ecd3c3;padding:5px 8px;text-align:left}td.num{text-align:right}
                textarea{width:100%%;height:110px;font:inherit}input,select,button{font:inherit;padding:3px 7px}
                .said{background:#fff;border:1px solid #ecd3c3;padding:14px;white-space:pre-wrap}.quiet{color:#7a5a48}
                </style></head><body><header><b>Gangway Support</b><a href="/">Users</a><a href="/companies">Companies</a>
                <a href="/message">Message</a><a href="/faults">Fault panel</a><a href="/calls">Calls</a>
                <small>a stand-in for trying things out</small></header><main>%s</main></body></html>
                """.formatted(Html.escape(title), body);
    }
}
