package remitto.standins.purser;

/** Why a field of a record was refused. */
record Problem(String field, String code, String message) {}
