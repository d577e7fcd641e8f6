package remitto.standins.foghorn;

import remitto.standins.page.Frame;
import remitto.standins.page.Html;

/** The looks of Foghorn Chat. */
final class FoghornFrame implements Frame {
    @Override
    public String page(String title, String body) {
        return """
                <!doctype html><html lang="en"><head><meta charset="utf-8"><title>%s - Foghorn Chat</title>
                <meta name="viewport" content="width=device-width"><style>
                body{font:15px/1.5 monospace;margin:0;background:#fdfbf4;color:#2d2a26}
                header,main{max-width:900px;margin:0 auto;padding:20px 24px 0}header{display:flex;gap:20px;align-items:baseline}
                header b{font-size:19px}header small{margin-left:auto}a{color:#5a4522}h1{font-size:17px}
                main p.said{border-left:4px solid #8a7b5c;padding:4px 12px;margin:8px 0}time,small,.quiet{color:#6f6656}
                table{border-collapse:collapse;width:100%%}th,td{border-bottom:1px solid #ddd5c0;padding:4px 8px;text-align:left}
                td.num{text-align:right}input,button{font:inherit;padding:2px 6px}</style></head><body>
                <header><b>Foghorn Chat</b><a href="/">Harbour office</a><a href="/faults">Fault panel</a><a href="/calls">Calls</a>
                <small>a stand-in for trying things out</small></header><main>%s</main></body></html>
                """.formatted(Html.escape(title), body);
    }
}
