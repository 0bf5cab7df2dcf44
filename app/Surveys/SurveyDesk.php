<?php

declare(strict_types=1);

namespace App\Surveys;

use App\Jobs\Heartbeat;
use App\Jobs\SurveySession;
use App\Models\StoredSession;
use App\Models\Survey;

/** Has sessions measured, once for each state that sounds different, and finds the newest figures there are. */
final class SurveyDesk
{
    /** A survey of this very state; made now if there is none. */
    public function request(StoredSession $stored): Survey
    {
        $content = self::content($stored->head->document);
        $survey = Survey::query()->where('session_id', $stored->id)->where('content', $content)->latest('id')->first();
        if ($survey !== null && $survey->status !== 'failed' && ! $this->isLost($survey)) {
            return $survey;
        }
        // Nobody waits for the figures of an older state any more.
        Survey::query()->where('session_id', $stored->id)->whereIn('status', ['waiting', 'running'])->update(['status' => 'dropped']);
        $survey = Survey::query()->create([
            'session_id' => $stored->id,
            'content' => $content,
            'change' => $stored->change,
            'status' => 'waiting',
        ]);
        SurveySession::dispatch($survey->id, $stored->head->document);

        return $survey;
    }

    /**
     * The newest figures and whether they are those of the state now.
     *
     * @return array{current: bool, running: ?float, result: ?array<string, mixed>, message: ?string}
     */
    public function state(StoredSession $stored): array
    {
        $content = self::content($stored->head->document);
        $here = Survey::query()->where('session_id', $stored->id)->where('content', $content)->latest('id')->first();
        $done = $here?->status === 'done'
            ? $here
            : Survey::query()->where('session_id', $stored->id)->where('status', 'done')->latest('id')->first();

        return [
            'current' => $here?->status === 'done',
            'running' => $here !== null && in_array($here->status, ['waiting', 'running'], true) && ! $this->isLost($here) ? $here->progress : null,
            'result' => $done?->result,
            'message' => $here?->status === 'failed' ? $here->message : null,
        ];
    }

    /** What can be heard of a document: not names, and not whether a channel is shown. */
    private static function content(string $document): string
    {
        return hash('sha256', json_encode(self::heard(json_decode($document, true, 64, JSON_THROW_ON_ERROR)), JSON_THROW_ON_ERROR));
    }

    private static function heard(mixed $part): mixed
    {
        if (! is_array($part)) {
            return $part;
        }
        unset($part['name'], $part['hidden']);

        return array_map(self::heard(...), $part);
    }

    private function isLost(Survey $survey): bool
    {
        return $survey->status === 'running' && $survey->beat_at !== null && $survey->beat_at->diffInSeconds(now()) > Heartbeat::LOST_AFTER;
    }
}
