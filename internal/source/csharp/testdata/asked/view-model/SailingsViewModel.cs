using System.Collections.ObjectModel;
using System.ComponentModel;
using System.Net.Http.Json;
using System.Runtime.CompilerServices;

namespace Saltmere.ViewModels
{
    public class Sailing { public int Id { get; set; } public string Vessel { get; set; } }

    public class SailingsViewModel : INotifyPropertyChanged
    {
        private ObservableCollection<Sailing> _sailings = new ObservableCollection<Sailing>();
        private bool _isBusy;
        public event PropertyChangedEventHandler PropertyChanged;

        public ObservableCollection<Sailing> Sailings
        {
            get => _sailings;
            set { _sailings = value; OnPropertyChanged(); }
        }

        public string Error { get; private set; }

        public async Task LoadAsync(HttpClient http)
        {
            if (_isBusy) return;
            _isBusy = true;
            try
            {
                Sailings = new ObservableCollection<Sailing>(await http.GetFromJsonAsync<IEnumerable<Sailing>>("sailings")); // asks IEnumerable<Sailing> GET sailings
            }
            catch (Exception ex) when (ex is HttpRequestException or System.Text.Json.JsonException)
            {
                Error = "failed";
            }
            finally { _isBusy = false; }
        }

        private void OnPropertyChanged([CallerMemberName] string name = null) => PropertyChanged?.Invoke(this, new PropertyChangedEventArgs(name));
    }
}
