package remitto.standins.postbag;

import remitto.standins.page.Frame;
import remitto.standins.page.Html;

/** The looks of Postbag Mail. */
final class PostFrame implements Frame {
    @Override
    public String page(String title, String body) {
        return """
                <!doctype html><html lang="en"><head><meta charset="utf-8"><title>%s - Postbag Mail</title>
                <meta name="viewport" content="width=device-width"><style>
                body{font:15px/1.55 Georgia,serif;margin:0;background:#fbf3ea;color:#3b2417}
                header{background:#7c2d12;color:#fff3e6;padding:12px 26px;display:flex;gap:22px;align-items:baseline}
                header b{font-size:19px}header a{color:#ffe1c4}header small{margin-left:auto}
                main{max-width:1080px;margin:0 auto;padding:24px}h1{font-size:21px;margin:0 0 10px}
                table{border-collapse:collapse;width:100%%;margin-bottom:22px;background:#fffaf4}
                th,td{border:1px solid #e6d2bd;padding:5px 9px;text-align:left}
                input,select,textarea,button{font:inherit;padding:3px 7px;border:1px solid #b98d6a;border-radius:3px}
                textarea{width:100%%;min-height:90px;box-sizing:border-box}.said{white-space:pre-wrap;background:#fffaf4;
                border:1px solid #e6d2bd;padding:14px;margin-top:12px}.quiet{color:#7a5a45}a{color:#9a3412}</style></head><body>
                <header><b>Postbag Mail</b><a href="/">People</a><a href="/lists">Lists</a><a href="/segment">Segment</a>
                <a href="/letter">Letter</a><a href="/faults">Fault panel</a><a href="/calls">Calls</a>
                <small>a stand-in for trying things out</small></header><main>%s</main></body></html>
                """.formatted(Html.escape(title), body);
    }
}
