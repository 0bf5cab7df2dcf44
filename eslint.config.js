import prettier from 'eslint-config-prettier';
import vue from 'eslint-plugin-vue';
import ts from 'typescript-eslint';

export default ts.config(
    { ignores: ['public/', 'vendor/', 'node_modules/', 'resources/js/api/session.d.ts'] },
    ...ts.configs.recommended,
    ...vue.configs['flat/recommended'],
    { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: ts.parser } } },
    { rules: { 'vue/multi-word-component-names': 'off' } },
    prettier,
);
