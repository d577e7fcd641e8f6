package remitto.standins.ticketshop;

import remitto.standins.page.Frame;
import remitto.standins.page.Html;

/** The looks of the ticket shop. */
final class ShopFrame implements Frame {
    @Override
    public String page(String title, String body) {
        return """
                <!doctype html><html lang="en"><head><meta charset="utf-8"><title>%s - Halvorn ticket shop</title>
                <meta name="viewport" content="width=device-width"><style>
                body{font:16px/1.5 serif;margin:0;background:#f2f6fb;color:#1d2733}
                header,main{max-width:760px;margin:0 auto;padding:20px 24px 0}header{display:flex;gap:20px;align-items:baseline}
                header b{font-size:20px}header small{margin-left:auto}h1{font-size:18px}form p{margin:8px 0}
                label{display:inline-block;min-width:120px}input,select,button{font:inherit;padding:3px 6px}
                table{border-collapse:collapse;width:100%%;margin-top:16px}th,td{border-bottom:1px solid #ccd8e6;padding:4px 8px;text-align:left}
                .quiet{color:#5a6b7d}</style></head><body>
                <header><b>Halvorn ticket shop</b><small>a stand-in for trying things out</small></header><main>%s</main></body></html>
                """.formatted(Html.escape(title), body);
    }
}
