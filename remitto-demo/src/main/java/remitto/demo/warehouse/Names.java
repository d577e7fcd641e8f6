package remitto.demo.warehouse;

import java.util.List;

/** Made-up people's names by country, in several scripts. */
final class Names {
    private Names() {}

    /** @param dial a national mobile number of this country, written with # for digits that may vary */
    record Country(
            String code,
            String language,
            String zone,
            int share,
            List<String> given,
            List<String> family,
            String dial,
            String prefix) {}

    static final List<Country> COUNTRIES = List.of(
            new Country(
                    "NO",
                    "nb",
                    "Europe/Oslo",
                    34,
                    List.of(
                            "Ingrid", "Aksel", "Mina", "Jonas", "Liv", "Sigurd", "Åse", "Øyvind", "Solveig", "Håkon",
                            "Randi", "Eirik", "Tuva", "Magnus"),
                    List.of(
                            "Solvang",
                            "Thune",
                            "Rødseth",
                            "Ekrem",
                            "Hagerup",
                            "Brattvåg",
                            "Lysne",
                            "Skarvik",
                            "Myrdal",
                            "Tangvald",
                            "Østby",
                            "Fjellheim"),
                    "912#####",
                    "+47"),
            new Country(
                    "SE",
                    "sv",
                    "Europe/Stockholm",
                    16,
                    List.of("Astrid", "Göran", "Elsa", "Nils", "Maja", "Björn", "Sara", "Oskar"),
                    List.of("Lindqvist", "Åkerblom", "Sjöstrand", "Holmgren", "Ekdahl", "Nyström"),
                    "070#######",
                    "+46"),
            new Country(
                    "DK",
                    "da",
                    "Europe/Copenhagen",
                    12,
                    List.of("Freja", "Søren", "Ida", "Kasper", "Mette", "Jørgen"),
                    List.of("Kjærgaard", "Nørby", "Holm", "Bang", "Østergaard", "Skov"),
                    "20######",
                    "+45"),
            new Country(
                    "DE",
                    "de",
                    "Europe/Berlin",
                    10,
                    List.of("Jürgen", "Heike", "Lukas", "Anneliese", "Matthias", "Käthe"),
                    List.of("Brückner", "Vogelsang", "Strauß", "Petersen", "Möller", "Wieland"),
                    "0151########",
                    "+49"),
            new Country(
                    "GB",
                    "en",
                    "Europe/London",
                    8,
                    List.of("Fiona", "Alastair", "Morag", "Ewan", "Catriona", "Rory"),
                    List.of("MacAllister", "Sinclair", "Drever", "Leask", "Isbister", "Rendall"),
                    "07400 ######",
                    "+44"),
            new Country(
                    "FI",
                    "fi",
                    "Europe/Helsinki",
                    7,
                    List.of("Aino", "Väinö", "Helmi", "Eero", "Sanni"),
                    List.of("Mäkelä", "Lehtonen", "Hyvärinen", "Saarinen", "Koskela"),
                    "0401######",
                    "+358"),
            new Country(
                    "PL",
                    "pl",
                    "Europe/Warsaw",
                    5,
                    List.of("Zofia", "Paweł", "Agnieszka", "Łukasz", "Małgorzata"),
                    List.of("Wiśniewska", "Dąbrowski", "Zając", "Śliwa"),
                    "512######",
                    "+48"),
            new Country(
                    "NL",
                    "nl",
                    "Europe/Amsterdam",
                    4,
                    List.of("Sanne", "Joost", "Femke", "Bram"),
                    List.of("van der Meer", "de Wit", "Jansma", "ten Brink"),
                    "06########",
                    "+31"),
            new Country(
                    "EE",
                    "et",
                    "Europe/Tallinn",
                    2,
                    List.of("Kadri", "Priit", "Õnne"),
                    List.of("Tamm", "Põld", "Rüütel"),
                    "5######",
                    "+372"),
            new Country(
                    "GR",
                    "el",
                    "Europe/Athens",
                    2,
                    List.of("Ελένη", "Γιώργος", "Μαρία"),
                    List.of("Παππάς", "Νικολάου", "Δημητρίου"),
                    "69########",
                    "+30"));

    static final List<String> PLACES =
            List.of("Halvorn", "Tarva", "Ytre Holm", "Sandvær", "Lysøy", "Kvalnes", "Brenn", "Storskjær");
    static final List<String> TRADES = List.of(
            "Fish Export",
            "Timber",
            "Bryggeri",
            "Marine Supply",
            "Dagligvare",
            "Quarry",
            "Spedition",
            "Betong",
            "Salt",
            "Elektro",
            "Seafood",
            "Ull",
            "Glass",
            "Verft");
    static final List<String> FIRM = List.of(
            "Brattvåg",
            "Nordhavn",
            "Kalvö",
            "Skarv",
            "Øyvær",
            "Hestholm",
            "Ostwind",
            "Tjeldsund",
            "Lysekil",
            "Fjordlys",
            "Samsø",
            "Grimsay",
            "Ravnsund",
            "Möwen",
            "Sillpå");
    static final List<String> MANAGERS = List.of("h.lunde", "m.osei", "k.brandt", "s.aune");
}
