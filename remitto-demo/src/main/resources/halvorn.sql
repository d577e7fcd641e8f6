create schema ferry;
create schema truth;
create table ferry.ports (code text primary key, name text not null, country text not null, zone text not null);
create table ferry.customers (
  customer_no text, given_name text, family_name text, email text, phone text, country text, birth_date date,
  created_at timestamptz, updated_at timestamptz);
create table ferry.crossings (
  crossing_no bigint, line text, from_port text, to_port text, departs_at timestamptz);
create table ferry.bookings (
  booking_no bigint, customer_no text, crossing_no bigint, booked_at timestamptz, amount numeric(10, 2), currency text);
create table ferry.pass_holders (
  pass_number text, given_name text, family_name text, email text, phone text, country text, birth_date date,
  home_port text, status text, mail_consent text, valid_until date, updated_at timestamptz);
create table ferry.pass_trips (pass_number text, crossing_no bigint, boarded_at timestamptz);
create table ferry.freight_companies (
  vat_number text, name text, country text, city text, phone text, credit_limit numeric(12, 2), currency text,
  account_manager text, updated_at timestamptz);
create table ferry.freight_contacts (contact_no text, vat_number text, full_name text, email text, phone text);
create table ferry.cargo_accounts (
  account_no text, company_name text, website text, vat_number text, city text, phone text, registered_at timestamptz);
create table ferry.invoices (
  invoice_no bigint, vat_number text, issued_on date, amount numeric(12, 2), currency text, tonnage int);
create table ferry.wifi_signups (signup_no text, full_name text, email text, phone text, signed_up_at timestamptz);
create table ferry.newsletter_signups (signup_no text, email text, full_name text, language text, signed_up_at timestamptz);
create table ferry.consents (email text, purpose text, channel text, answer text, given_at timestamptz, source text);
create table ferry.churn_scores (customer_no text, score numeric(5, 2), scored_at timestamptz);
create table truth.person_records (person_no int, system text, record_no text);
create table truth.company_records (company_no int, system text, record_no text);
