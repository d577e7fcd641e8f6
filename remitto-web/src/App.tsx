import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Navigate, Route, Routes, useLocation } from 'react-router';
import { api, ok } from './api/client';
import { at } from './components/base';
import { Line } from './components/Line';
import { page, Pages, usePagesAhead } from './components/pages';
import { Empty, Page } from './components/ui';
import { DeparturesPage } from './features/departures/DeparturesPage';
import { Palette } from './features/palette/Palette';
import { useSettings } from './features/session/settings';
import { SignInPage } from './features/session/SignInPage';
import { WelcomePage } from './features/session/WelcomePage';

/** Each page comes when it is first opened, or ahead of that in this order: those that are opened most come first. */
const RoutesPage = page(() => import('./features/routes/RoutesPage'), 'RoutesPage');
const RoutePage = page(() => import('./features/routes/RoutePage'), 'RoutePage');
const ManifestPage = page(() => import('./features/manifests/ManifestPage'), 'ManifestPage');
const DatasetsPage = page(() => import('./features/datasets/DatasetsPage'), 'DatasetsPage');
const DatasetPage = page(() => import('./features/datasets/DatasetPage'), 'DatasetPage');
const DestinationsPage = page(() => import('./features/destinations/DestinationsPage'), 'DestinationsPage');
const DestinationPage = page(() => import('./features/destinations/DestinationPage'), 'DestinationPage');
const PeoplePage = page(() => import('./features/people/PeoplePage'), 'PeoplePage');
const PersonPage = page(() => import('./features/people/PersonPage'), 'PersonPage');
const AudiencesPage = page(() => import('./features/audiences/AudiencesPage'), 'AudiencesPage');
const AudiencePage = page(() => import('./features/audiences/AudiencePage'), 'AudiencePage');
const SourcesPage = page(() => import('./features/sources/SourcesPage'), 'SourcesPage');
const ReceiverPage = page(() => import('./features/receivers/ReceiverPage'), 'ReceiverPage');
const ReceiverEditorPage = page(
  () => import('./features/receivers/ReceiverEditorPage'),
  'ReceiverEditorPage',
);
const FileSetPage = page(() => import('./features/filesets/FileSetPage'), 'FileSetPage');
const FileSetEditorPage = page(() => import('./features/filesets/FileSetEditorPage'), 'FileSetEditorPage');
const ArrivalsPage = page(() => import('./features/arrivals/ArrivalsPage'), 'ArrivalsPage');
const SourcePage = page(() => import('./features/sources/SourcePage'), 'SourcePage');
const ExplainPage = page(() => import('./features/explain/ExplainPage'), 'ExplainPage');
const FieldBookPage = page(() => import('./features/fieldbook/FieldBookPage'), 'FieldBookPage');
const HeldPage = page(() => import('./features/held/HeldPage'), 'HeldPage');
const JournalPage = page(() => import('./features/journal/JournalPage'), 'JournalPage');
const AccountPage = page(() => import('./features/account/AccountPage'), 'AccountPage');
const MembersPage = page(() => import('./features/audiences/MembersPage'), 'MembersPage');
const SendPage = page(() => import('./features/audiences/sending/SendPage'), 'SendPage');
const ConsentPage = page(() => import('./features/consents/ConsentPage'), 'ConsentPage');
const CrosswalkPage = page(() => import('./features/crosswalks/CrosswalkPage'), 'CrosswalkPage');
const EventsPage = page(() => import('./features/events/EventsPage'), 'EventsPage');
const MeasurePage = page(() => import('./features/measures/MeasurePage'), 'MeasurePage');
const MeasuresPage = page(() => import('./features/measures/MeasuresPage'), 'MeasuresPage');
const ErasePage = page(() => import('./features/rights/ErasePage'), 'ErasePage');
const ErasurePage = page(() => import('./features/rights/ErasurePage'), 'ErasurePage');
const ErasuresPage = page(() => import('./features/rights/ErasuresPage'), 'ErasuresPage');
const FilePage = page(() => import('./features/rights/FilePage'), 'FilePage');
const ReviewPage = page(() => import('./features/people/ReviewPage'), 'ReviewPage');
const RulesPage = page(() => import('./features/people/RulesPage'), 'RulesPage');
const ProfilePage = page(() => import('./features/profiles/ProfilePage'), 'ProfilePage');
const NewRoutePage = page(() => import('./features/routes/NewRoutePage'), 'NewRoutePage');
const StocktakePage = page(() => import('./features/stocktakes/StocktakePage'), 'StocktakePage');
const RetentionPage = page(() => import('./features/retention/RetentionPage'), 'RetentionPage');
const ServiceAccountsPage = page(
  () => import('./features/tokens/ServiceAccountsPage'),
  'ServiceAccountsPage',
);
const UsersPage = page(() => import('./features/users/UsersPage'), 'UsersPage');

export function App() {
  const client = useQueryClient();
  const { pathname, search } = useLocation();
  const [palette, setPalette] = useState(false);
  const session = useQuery({ queryKey: ['session'], queryFn: () => ok(api.GET('/api/session')) });
  useSettings(session.data?.settings);
  usePagesAhead(session.data?.signedIn ?? false);
  if (session.isPending) return null;
  if (!session.data?.signedIn) {
    if (pathname.startsWith('/welcome/'))
      return (
        <Routes>
          <Route path="/welcome/:token" element={<WelcomePage />} />
        </Routes>
      );
    return pathname === '/sign-in' ? (
      <SignInPage />
    ) : (
      <Navigate to={`/sign-in?to=${encodeURIComponent(pathname + search)}`} replace />
    );
  }
  const signOut = async () => {
    await ok(api.DELETE('/api/session'));
    client.clear();
    location.assign(at('/sign-in'));
  };
  return (
    <>
      <Line session={session.data} onPalette={() => setPalette(true)} onSignOut={() => void signOut()} />
      <Palette open={palette} onOpen={setPalette} />
      <Pages key={session.data.settings.zone} at={pathname}>
        <Routes>
          <Route path="/" element={<DeparturesPage />} />
          <Route path="/departures" element={<DeparturesPage />} />
          <Route path="/sources" element={<SourcesPage />} />
          <Route path="/sources/arrivals" element={<ArrivalsPage />} />
          <Route path="/sources/:id" element={<SourcePage />} />
          <Route path="/sources/:source/file-sets/new" element={<FileSetEditorPage />} />
          <Route path="/sources/:source/file-sets/:id" element={<FileSetPage />} />
          <Route path="/sources/:source/file-sets/:id/edit" element={<FileSetEditorPage />} />
          <Route path="/sources/:source/receivers/new" element={<ReceiverEditorPage />} />
          <Route path="/sources/:source/receivers/:id" element={<ReceiverPage />} />
          <Route path="/sources/:source/receivers/:id/edit" element={<ReceiverEditorPage />} />
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
          <Route path="/service-accounts" element={<ServiceAccountsPage />} />
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
          <Route path="/welcome/:token" element={<Navigate to="/" replace />} />
          <Route
            path="/sign-in"
            element={<Navigate to={new URLSearchParams(search).get('to') ?? '/'} replace />}
          />
          <Route
            path="*"
            element={
              <Page title="Page not found">
                <Empty>No page has this address. Choose one in the navigation above.</Empty>
              </Page>
            }
          />
        </Routes>
      </Pages>
    </>
  );
}
