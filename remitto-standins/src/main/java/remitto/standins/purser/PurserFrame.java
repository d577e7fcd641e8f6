package remitto.standins.purser;

import remitto.standins.page.Frame;
import remitto.standins.page.Html;

/** The looks of Purser CRM. */
final class PurserFrame implements Frame {
    @Override
    public String page(String title, String body) {
        return """
                <!doctype html><html lang="en"><head><meta charset="utf-8"><title>%s - Purser CRM</title>
                <meta name="viewport" content="width=device-width"><style>
                body{font:15px/1.45 Georgia,serif;margin:0;background:#eef3ea;color:#20301f}
                header{background:#2f4a3a;color:#fff;padding:10px 24px;display:flex;gap:22px;align-items:baseline}
                header b{font-size:19px}header a{color:#dcebd8}header small{margin-left:auto;color:#c9d8c6}
                main{padding:18px 24px;max-width:1180px}h1{font-size:22px;font-weight:normal;margin:0 0 12px}
                table{border-collapse:collapse;background:#fff;width:100%%}
                th,td{border:1px solid #cbd8c6;padding:5px 9px;text-align:left;vertical-align:top}
                th{background:#dfe9da;font-weight:normal;color:#3c5140}a{color:#1f5a3c}
                input,select,button{font:inherit;padding:3px 7px}form.line{margin:0 0 12px}
                td.num{text-align:right}.quiet{color:#5b6c5a}</style></head><body>
                <header><b>Purser CRM</b><a href="/">Desk</a><a href="/desk/contact">Contacts</a>
                <a href="/desk/company">Companies</a><a href="/schema">Fields</a><a href="/faults">Fault panel</a>
                <a href="/calls">Calls</a><small>a stand-in for trying things out</small></header><main>%s</main></body></html>
                """.formatted(Html.escape(title), body);
    }
}
