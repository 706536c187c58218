export { PaperComing as default } from '@/ui/PageComing';
