package remitto.standins.slipway;

import remitto.standins.page.Frame;

/** The looks of Slipway. */
final class SlipFrame implements Frame {
    @Override
    public String page(String title, String body) {
        return """
                <!doctype html><html lang="en"><head><meta charset="utf-8"><title>%s - Slipway</title>
                <meta name="viewport" content="width=device-width"><style>
                body{font:16px/1.5 Georgia,serif;margin:0;background:#e9eef0;color:#20303a}
                header,main{max-width:960px;margin:0 auto;padding:18px 24px 0}header{border-bottom:3px double #6b8290}
                h1{font-size:22px;margin:0}h2{font-size:17px}small{color:#4c616d}a{color:#14566b}
                table{border-collapse:collapse;width:100%%}th,td{text-align:left;padding:4px 10px;border-bottom:1px solid #c3d0d6}
                .n{text-align:right}pre{background:#fff;padding:12px;overflow:auto;font-size:13px}code{font-size:13px}
                form{margin-top:28px}label{display:block;margin:6px 0}input{width:5em}</style></head>
                <body><header><h1>Slipway</h1><small>where files are left, a stand-in for trying things out</small></header>
                <main>%s</main></body></html>
                """.formatted(title, body);
    }
}
