import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Navigate, Route, Routes, useLocation } from 'react-router';
import { api, ok } from './api/client';
import { Line } from './components/Line';
import { Empty, Page } from './components/ui';
import { AccountPage } from './features/account/AccountPage';
import { AudiencePage } from './features/audiences/AudiencePage';
import { AudiencesPage } from './features/audiences/AudiencesPage';
import { MembersPage } from './features/audiences/MembersPage';
import { SendPage } from './features/audiences/sending/SendPage';
import { ConsentPage } from './features/consents/ConsentPage';
import { CrosswalkPage } from './features/crosswalks/CrosswalkPage';
import { DatasetPage } from './features/datasets/DatasetPage';
import { DatasetsPage } from './features/datasets/DatasetsPage';
import { DeparturesPage } from './features/departures/DeparturesPage';
import { DestinationPage } from './features/destinations/DestinationPage';
import { DestinationsPage } from './features/destinations/DestinationsPage';
import { ExplainPage } from './features/explain/ExplainPage';
import { FieldBookPage } from './features/fieldbook/FieldBookPage';
import { HeldPage } from './features/held/HeldPage';
import { JournalPage } from './features/journal/JournalPage';
import { EventsPage } from './features/events/EventsPage';
import { ManifestPage } from './features/manifests/ManifestPage';
import { MeasurePage } from './features/measures/MeasurePage';
import { MeasuresPage } from './features/measures/MeasuresPage';
import { Palette } from './features/palette/Palette';
import { PeoplePage } from './features/people/PeoplePage';
import { PersonPage } from './features/people/PersonPage';
import { ErasePage } from './features/rights/ErasePage';
import { ErasurePage } from './features/rights/ErasurePage';
import { ErasuresPage } from './features/rights/ErasuresPage';
import { FilePage } from './features/rights/FilePage';
import { ReviewPage } from './features/people/ReviewPage';
import { RulesPage } from './features/people/RulesPage';
import { ProfilePage } from './features/profiles/ProfilePage';
import { NewRoutePage } from './features/routes/NewRoutePage';
import { RoutePage } from './features/routes/RoutePage';
import { RoutesPage } from './features/routes/RoutesPage';
import { SignInPage } from './features/session/SignInPage';
import { SourcePage } from './features/sources/SourcePage';
import { SourcesPage } from './features/sources/SourcesPage';
import { StocktakePage } from './features/stocktakes/StocktakePage';
import { RetentionPage } from './features/retention/RetentionPage';
import { UsersPage } from './features/users/UsersPage';

export function App() {
  const client = useQueryClient();
  const { pathname, search } = useLocation();
  const [palette, setPalette] = useState(false);
  const session = useQuery({ queryKey: ['session'], queryFn: () => ok(api.GET('/api/session')) });
  if (session.isPending) return null;
  if (!session.data?.signedIn) {
    return pathname === '/sign-in' ? (
      <SignInPage />
    ) : (
      <Navigate to={`/sign-in?to=${encodeURIComponent(pathname + search)}`} replace />
    );
  }
  const signOut = async () => {
    await ok(api.DELETE('/api/session'));
    client.clear();
    location.assign('/sign-in');
  };
  return (
    <>
      <Line
        user={session.data.name}
        admin={session.data.role === 'ADMIN'}
        onPalette={() => setPalette(true)}
        onSignOut={() => void signOut()}
      />
      <Palette open={palette} onOpen={setPalette} />
      <Routes>
        <Route path="/" element={<DeparturesPage />} />
        <Route path="/departures" element={<DeparturesPage />} />
        <Route path="/sources" element={<SourcesPage />} />
        <Route path="/sources/:id" element={<SourcePage />} />
        <Route path="/datasets" element={<DatasetsPage />} />
        <Route path="/datasets/:id" element={<DatasetPage />} />
        <Route path="/crosswalks/:id" element={<CrosswalkPage />} />
        <Route path="/routes" element={<RoutesPage />} />
        <Route path="/routes/new" element={<NewRoutePage />} />
        <Route path="/routes/:id" element={<RoutePage />} />
        <Route path="/destinations" element={<DestinationsPage />} />
        <Route path="/destinations/:id" element={<DestinationPage />} />
        <Route path="/destinations/:id/:object" element={<FieldBookPage />} />
        <Route path="/profiles/:name" element={<ProfilePage />} />
        <Route path="/explain" element={<ExplainPage />} />
        <Route path="/stocktakes/:id" element={<StocktakePage />} />
        <Route path="/manifests/:id" element={<ManifestPage />} />
        <Route path="/held" element={<HeldPage />} />
        <Route path="/journal" element={<JournalPage />} />
        <Route path="/account" element={<AccountPage />} />
        <Route path="/users" element={<UsersPage />} />
        <Route path="/retention" element={<RetentionPage />} />
        <Route path="/people" element={<PeoplePage />} />
        <Route path="/people/review" element={<ReviewPage />} />
        <Route path="/people/rules" element={<RulesPage />} />
        <Route path="/people/erasures" element={<ErasuresPage />} />
        <Route path="/people/erasures/:id" element={<ErasurePage />} />
        <Route path="/people/:id/erase" element={<ErasePage />} />
        <Route path="/people/:id/file" element={<FilePage />} />
        <Route path="/people/:id" element={<PersonPage />} />
        <Route path="/companies" element={<PeoplePage />} />
        <Route path="/companies/review" element={<ReviewPage />} />
        <Route path="/companies/rules" element={<RulesPage />} />
        <Route path="/companies/:id" element={<PersonPage />} />
        <Route path="/audiences" element={<AudiencesPage />} />
        <Route path="/audiences/measures" element={<MeasuresPage />} />
        <Route path="/audiences/measures/:id" element={<MeasurePage />} />
        <Route path="/audiences/events" element={<EventsPage />} />
        <Route path="/audiences/consent" element={<ConsentPage />} />
        <Route path="/audiences/:id" element={<AudiencePage />} />
        <Route path="/audiences/:id/members" element={<MembersPage />} />
        <Route path="/audiences/:id/send" element={<SendPage />} />
        <Route
          path="/sign-in"
          element={<Navigate to={new URLSearchParams(search).get('to') ?? '/'} replace />}
        />
        <Route
          path="*"
          element={
            <Page title="Nothing here">
              <Empty>This address leads nowhere. Take a stop on the line above.</Empty>
            </Page>
          }
        />
      </Routes>
    </>
  );
}
