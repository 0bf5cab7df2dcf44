import { computed, ref, watch } from 'vue';
import type { ParameterSpec, ParameterValue, ProcessorInsert } from '@/api/types';
import { useCatalogue } from '@/stores/catalogue';
import { useSession } from '@/stores/session';

/** The parameters of an insert as they are moved, and the group of them that is shown. */
export function useInsertValues(insert: () => ProcessorInsert) {
    const session = useSession();
    const catalogue = useCatalogue();

    const group = ref('');
    /** Values that are on their way to the server. */
    const local = ref<Record<string, ParameterValue>>({});
    let pending = 0;

    const spec = computed(() => catalogue.byId[insert().processor]);
    const parameters = computed(() => spec.value?.parameters ?? []);
    const groups = computed(() => [...new Set(parameters.value.map((parameter) => parameter.group))]);
    const shown = computed(() => parameters.value.filter((parameter) => parameter.group === group.value));
    const values = computed(() => ({ ...insert().parameters, ...local.value }));

    const find = (id: string) => parameters.value.find((parameter) => parameter.id === id);

    function value(parameter: ParameterSpec): ParameterValue {
        return values.value[parameter.id] ?? parameter.default;
    }

    function set(parameter: string, next: ParameterValue, gesture: string): void {
        local.value = { ...local.value, [parameter]: next };
        pending++;
        void session.edit({ type: 'set-parameter', insert: insert().id, parameter, value: next }, gesture).then(() => {
            if (--pending === 0) {
                local.value = {};
            }
        });
    }

    /** A recording that is chosen is also the one that is used. */
    function change(parameter: ParameterSpec, next: ParameterValue, gesture: string): void {
        set(parameter.id, next, gesture);
        const user = parameters.value.find((entry) => entry.choices.some((choice) => choice.value === 'own'));
        if (parameter.kind === 'audio-file' && next !== '' && user) {
            set(user.id, 'own', gesture);
        }
    }

    /** A drag in the picture may leave the parameter's range. */
    function setHeld(parameter: string, next: number, gesture: string): void {
        const wanted = find(parameter);
        if (wanted) {
            set(parameter, Math.min(wanted.max, Math.max(wanted.min, next)), gesture);
        }
    }

    function focusGroup(parameter: string): void {
        group.value = find(parameter)?.group ?? group.value;
    }

    watch(
        [() => insert().id, () => insert().processor],
        () => {
            local.value = {};
            // The band that is in use, else the first.
            const used = parameters.value.find((parameter) => insert().parameters[parameter.id] !== undefined);
            group.value = used?.group ?? groups.value[0] ?? '';
        },
        { immediate: true },
    );

    return { spec, group, groups, shown, values, value, set, change, setHeld, focusGroup };
}
