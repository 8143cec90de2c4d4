using Refit;
using System.Text.Json.Serialization;
public interface INoticesApi
{
    [Get("/notices/{id}")] [Headers("Accept: application/json")]
    Task<ApiResponse<Notice>> GetNotice([AliasAs("id")] long noticeId); // asks Notice GET /notices/{id}
}
public record Notice([property: JsonPropertyName("notice_id")] long Id, string? Text);
public class Outcome { public Notice? Notice { get; set; } public bool Failed { get; set; } }
public class Api
{
    public async Task<Outcome> LoadAsync(HttpClient http)
    {
        using var response = await RestService.For<INoticesApi>(http).GetNotice(5);
        return new Outcome { Notice = response.Content, Failed = response.Error != null };
    }
}
